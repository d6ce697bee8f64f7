// Stitches the demo drawings into stitch CSV files beside this script, and writes down what objects they are: npm run demo
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { inspectProgram, writeStitchCsv } from '@isola/core';
import { DEMO_JOBS } from './jobs.ts';
import { writeDrawnObjects } from './writeDrawnObjects.ts';

mkdirSync(import.meta.dirname, { recursive: true });
for (const job of DEMO_JOBS) {
  const { program, objects } = job.draw();
  const figures = inspectProgram(program, job.target);
  writeFileSync(path.join(import.meta.dirname, `${job.file}.csv`), writeStitchCsv(program));
  writeFileSync(path.join(import.meta.dirname, `${job.file}.objects.json`), writeDrawnObjects(objects));
  const { width, height } = figures.extents;
  console.log(
    `${job.file}.csv: ${figures.stitches} stitches, ${figures.trims} trims, ${width.toFixed(1)} × ${height.toFixed(1)} mm, ${(figures.run.seconds / 60).toFixed(1)} min`,
  );
}
