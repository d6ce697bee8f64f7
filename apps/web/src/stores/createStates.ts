import type { JobDetail } from '@isola/contract';
import type { StateName } from '@isola/core';
import type { Remote } from 'comlink';
import type { ShallowRef } from 'vue';
import { api } from '../api/client.ts';
import type { StateNeeds } from '../workers/compareProtocol.ts';
import type { EngineApi } from '../workers/protocol.ts';
import { entriesOf, loadJob } from './loadJob.ts';

/** States of the job on the bench other than the present one: what the engine does not have in hand of them is fetched. */
export function createStates(engine: () => Remote<EngineApi> | undefined, job: Readonly<ShallowRef<JobDetail | undefined>>) {
  /** @throws where a state is not of this job. */
  async function bring<T>(
    asked: readonly StateName[],
    ask: (engine: Remote<EngineApi>) => Promise<T | StateNeeds>,
  ): Promise<T | undefined> {
    const brought = new Set<unknown>();
    const kept = asked.filter((name) => name.startsWith('kept '));
    for (;;) {
      const remote = engine();
      const id = job.value?.id;
      if (remote === undefined || id === undefined) return undefined;
      const answer = await ask(remote);
      if (!isNeed(answer)) return answer;
      if (brought.has(answer)) throw new Error('This state of the job is not there: reload the page and choose again.');
      brought.add(answer);
      if (answer === 'start-needed') await remote.takeStart((await api.base(id, 'start', () => undefined)).json);
      else if (answer === 'kept-needed')
        for (const name of kept) await remote.takeKept(name, await api.revisionProgram(id, Number(name.slice(5))));
      else {
        const { base, detail } = await loadJob(id, () => undefined, 'start');
        await remote.reachBack(base, entriesOf(detail));
      }
    }
  }

  return {
    compareStates: (one: StateName, other: StateName) => bring([one, other], (remote) => remote.compareStates(one, other)),
    judgeStates: async () => engine()?.judgeStates(),
    sampleState: (name: StateName) => bring([name], (remote) => remote.sampleState(name)),
    pictureState: (name: StateName) => bring([name], (remote) => remote.pictureState(name)),
  };
}

const isNeed = (answer: unknown): answer is StateNeeds =>
  answer === 'start-needed' || answer === 'journal-needed' || answer === 'kept-needed';
