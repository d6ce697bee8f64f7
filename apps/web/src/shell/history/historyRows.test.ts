/** @jest-environment node */
import { describe, expect, test } from '@jest/globals';
import type { HistoryStep } from '@isola/contract';
import fc from 'fast-check';
import { sayState, stateChoices } from '../../screens/compare/stateChoices.ts';
import { type HistoryRow, historyRows, sayWhen } from './historyRows.ts';
import { runs } from '../../../../../packages/core/src/testing/runs.ts';

const step = (id: string, parent: string | null, seq: number): HistoryStep => ({
  ...{ id, parent, seq, at: `2026-11-23T08:0${seq % 10}:00.000Z`, name: `step ${id}`, reason: null, isTarget: false, who: null },
});
/** a, b, c; from a another way d, e; from d yet another, f. */
const STEPS = [step('a', null, 1), step('b', 'a', 2), step('c', 'b', 3), step('d', 'a', 5), step('e', 'd', 6), step('f', 'd', 8)];
const tree = { steps: STEPS, now: 'b', ahead: ['c'], names: new Map([['d', 'Cheaper']]) };
const say = (row: HistoryRow): string =>
  row.kind === 'branch' ? `${row.depth}+${row.name ?? row.id}:${row.count}` : `${row.depth} ${row.id ?? 'start'} ${row.state}`;

describe('the list of a history', () => {
  test('has the branch that is worked on, newest first, and where others leave it those, folded or with their steps', () => {
    expect(historyRows(tree, new Set()).map(say)).toEqual(['0 c ahead', '0 b now', '1+Cheaper:3', '0 a done', '0 start done']);
    expect(historyRows(tree, new Set(['d', 'e'])).map(say)).toEqual([
      ...['0 c ahead', '0 b now', '1+Cheaper:3'],
      // The one that was made last is the way on from there.
      ...['1 f left', '2+e:1', '2 e left', '1 d left'],
      ...['0 a done', '0 start done'],
    ]);
    const begun = historyRows({ ...tree, now: null, ahead: [] }, new Set());
    expect(begun.map(say)).toEqual(['1+a:6', '0 start now']);
    expect(historyRows({ steps: [], now: null, ahead: [], names: new Map() }, new Set()).map(say)).toEqual(['0 start now']);
    const named = historyRows({ ...tree, now: 'e', ahead: [] }, new Set()).find((row) => row.kind === 'step' && row.id === 'd');
    expect(named).toMatchObject({ begins: 'Cheaper', state: 'done' });
  });

  test('unfolded shows every step of any tree once', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(), { maxLength: 25 }), fc.nat(), (parents, at) => {
        const steps = parents.map((n, k) => step(`s${k}`, n % (k + 1) === k ? null : `s${n % (k + 1)}`, k + 1));
        const now = at % (steps.length + 1) === steps.length ? null : `s${at % (steps.length + 1)}`;
        const rows = historyRows({ steps, now, ahead: [], names: new Map() }, new Set(steps.map(({ id }) => id)));
        const shown = rows.filter((row) => row.kind === 'step').map(({ id }) => id ?? 'start');
        expect([...shown].sort()).toEqual([...steps.map(({ id }) => id), 'start'].sort());
        expect(rows.filter((row) => row.kind === 'step' && row.state === 'now').map(({ id }) => id)).toEqual([now]);
      }),
      runs(200, 5),
    );
  });

  test('says times as short as they can be told', () => {
    const today = new Date('2026-11-29T18:00:00');
    expect([sayWhen('2026-11-29T14:05:00', today), sayWhen('2026-11-27T09:30:00', today), sayWhen('')]).toEqual([
      ...['14:05', '27 Nov 09:30', 'not saved yet'],
    ]);
  });
});

describe('what can be compared', () => {
  test('is the file, what is on the bench, what was kept and the ends of other branches, each once and by its name', () => {
    const kept = ['As it came in', 'For the sample', 'Sent', 'Of rows'].map((name, k) => ({ number: k + 1, name }) as never);
    const revisions = new Map<number, string | null>([
      [1, null],
      [2, 'c'],
      [3, 'c'],
    ]);
    const choices = stateChoices({ ...tree, revisions }, kept, ['file', 'now', 'a']);
    expect(choices).toEqual([
      ['file', 'As it came'],
      ['now', 'Now'],
      ['c', 'Revision 3: Sent'],
      ['kept 4', 'Revision 4: Of rows'],
      ['e', 'Branch: Cheaper'],
      ['f', 'Branch: Cheaper'],
      ['a', 'After “step a”'],
    ]);
    expect(sayState('kept 4', choices)).toBe('revision 4');
    expect([sayState('now', choices), sayState('e', choices), sayState('gone', choices)]).toEqual(['now', 'Cheaper', 'a step']);
  });
});
