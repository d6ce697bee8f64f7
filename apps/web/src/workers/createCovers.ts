import { type CoverMap, mapCover, type Program, type ThreadType, updateCover } from '@isola/core';

type Yarn = Pick<ThreadType, 'weight' | 'fiber'>;

interface KnownCover {
  readonly program: Program;
  readonly thread: Yarn;
  readonly map: CoverMap;
}

/** The design as it is, as it came, as it is tried, and two that are compared: more maps are not held. */
const MOST_HELD = 5;

/** Gives cover maps of programs. What differs from a program of before in one place is measured there alone. */
export function createCovers(): (program: Program, thread: Yarn) => CoverMap {
  let held: readonly KnownCover[] = [];
  return (program, thread) => {
    const isSame = ({ thread: other }: KnownCover): boolean => other.weight === thread.weight && other.fiber === thread.fiber;
    const known = held.find((cover) => cover.program === program && isSame(cover));
    const from = held.find(isSame);
    const map = known?.map ?? (from === undefined ? mapCover(program, thread) : updateCover(from.map, from.program, program, thread));
    held = [{ program, thread, map }, ...held.filter((cover) => cover.program !== program)].slice(0, MOST_HELD);
    return map;
  };
}
