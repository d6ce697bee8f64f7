import type { Design } from '../model/design.ts';
import type { Block } from '../model/plan.ts';
import { threadThickness } from '../model/thread.ts';
import { CoverStack } from './coverStack.ts';
import { HiddenWays } from './hiddenWays.ts';

/** Where paths can hide when a design's objects are sewn in an order of blocks. */
export function waysFor({ plan, target }: Pick<Design, 'plan' | 'target'>, blocks: readonly Block[]): HiddenWays {
  const hiders = blocks.flatMap(({ thread, objects }) =>
    objects.map((id) => ({ object: plan.objects[id]!.sewn.reading, color: thread?.color ?? '' })),
  );
  return new HiddenWays(new CoverStack(hiders, threadThickness(target.thread)));
}
