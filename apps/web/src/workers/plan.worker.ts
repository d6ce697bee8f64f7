import { planLanes } from '@isola/core';
import { expose } from 'comlink';

/** Plans the week beside the page. */
const plan = { planLanes };
export type PlanWorkerApi = typeof plan;
expose(plan);
