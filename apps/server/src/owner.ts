// npm run owner: prints a link by which an owner of the shop is let in; the first one is made so.
import { z } from 'zod';
import { connectDatabase } from './db/connect.ts';
import { Bus } from './services/Bus.ts';
import { People } from './services/People.ts';

const Environment = z.object({ DATABASE_URL: z.url(), DATABASE_OWNER_URL: z.url().optional(), PUBLIC_URL: z.url().optional() });
const { DATABASE_URL, DATABASE_OWNER_URL, PUBLIC_URL } = Environment.parse(process.env);
const models = await connectDatabase(DATABASE_URL, { ownerUrl: DATABASE_OWNER_URL });
const { token, expiresAt } = await new People(models, new Bus(models, '')).invite('owner', 'the console');
const address = (PUBLIC_URL ?? 'http://localhost:4310').replace(/\/$/, '');
console.log(
  `Open this once, before ${new Date(expiresAt).toLocaleDateString('en-GB', { dateStyle: 'long' })}, to become an owner of the shop:\n${address}/join#${token}`,
);
await models.sequelize.close();
