import { z } from 'zod';
import type { Design } from '../../model/design.ts';
import type { ObjectId, Plan } from '../../model/plan.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { designOf } from '../../plan/designOf.ts';
import { printOf } from './printOf.ts';

/** One kind of edit: what its JSON looks like, and what it does to a design, or why it does not fit. */
export interface OperationKind<S extends z.ZodObject> {
  readonly schema: S;
  apply(design: Design, operation: z.infer<S>): Result<Design, string>;
}

/** Fields that more than one operation has. */
export const Id = z.string().min(1).max(80);
export const Print = z.string().max(40);
export const Name = z.string().trim().min(1).max(200);

/** The design with another plan. */
export function withPlan({ target, kept }: Design, plan: Plan): Result<Design, string> {
  return succeed(designOf(plan, target, kept));
}

/** Refuses where an object is not there or is sewn otherwise than the edit expects it. */
export function expectObject({ plan }: Design, id: ObjectId, was: string | undefined): Result<Plan['objects'][string], string> {
  const object = plan.objects[id];
  if (object === undefined) return fail(`there is no object ${id} any more`);
  if (was !== undefined && printOf(plan, id) !== was) return fail(`${object.name} was changed since this step was thought of`);
  return succeed(object);
}
