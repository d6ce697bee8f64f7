// npm run doctor: replays every job of a database and says what differs from what was stored; ends with 1 where anything does.
import { z } from 'zod';
import { connectDatabase } from '../db/connect.ts';
import { examineJob } from './examineJob.ts';

const { DATABASE_URL, DATABASE_OWNER_URL } = z.object({ DATABASE_URL: z.url(), DATABASE_OWNER_URL: z.url().optional() }).parse(process.env);
const models = await connectDatabase(DATABASE_URL, { ownerUrl: DATABASE_OWNER_URL });
let wrong = 0;
const jobs = await models.Job.findAll({ attributes: ['id'], order: ['createdAt'], paranoid: false });
for (const { id } of jobs) {
  const job = await models.Job.findByPk(id, { paranoid: false });
  if (job === null) continue;
  const { steps, problems } = await examineJob(models, job).catch((error: unknown) => ({
    steps: job.version,
    problems: [`it cannot be examined: ${error instanceof Error ? error.message : String(error)}`],
  }));
  if (problems.length > 0) wrong++;
  console.log(`${problems.length === 0 ? 'sound  ' : 'DIFFERS'}  ${job.name} (${steps === 1 ? '1 step' : `${steps} steps`})`);
  for (const problem of problems) console.log(`           ${problem}`);
}
console.log(
  wrong === 0 ? `All ${jobs.length} jobs are as they were stored.` : `${wrong} of ${jobs.length} jobs differ from what was stored.`,
);
await models.sequelize.close();
process.exitCode = wrong === 0 ? 0 : 1;
