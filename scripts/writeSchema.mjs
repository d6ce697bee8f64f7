// Writes the JSON Schema of design JSON, generated from what reads it, to docs: npm run schema
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { designSchema } from '@isola/core';

const file = path.join(import.meta.dirname, '../docs/design.schema.json');
writeFileSync(file, `${JSON.stringify(designSchema(), null, 2)}\n`);
console.log(`${file} is written.`);
