import {
  type AppliedRepair,
  applyOperation,
  asKind,
  type Design,
  ObjectSpec,
  objectsOf,
  readObjectSpec,
  type RefusedRepair,
  SPEC_KINDS,
  SPEC_VALUES,
  type SpecEdit,
  type SpecKind,
  sewSpecs,
  type StitchObject,
  UNDERLAY_KINDS,
  type UnderlaySpec,
} from '@isola/core';
import { UsageError } from './usageError.ts';

/** Which objects, and what of their spec is to be what. */
export interface Setting {
  /** As it was written, for messages. */
  readonly text: string;
  readonly object: string;
  readonly values: Partial<
    Pick<ObjectSpec, 'kind' | 'spacing' | 'stitchLength' | 'pull' | 'angle' | 'shortest' | 'endStitch' | 'underlay'>
  >;
}

const NUMBERS = ['spacing', 'stitchLength', 'pull', 'angle', 'shortest', 'endStitch'] as const;
/** The command line calls an edge stitch by its first word. */
const KIND_WORDS: Readonly<Record<string, SpecKind>> = { ...Object.fromEntries(SPEC_KINDS.map((k) => [k, k])), edge: 'edge-stitch' };
const KINDS = ['run', 'satin', 'fill', 'contour', 'meander', 'edge'];

export const SETTING_HELP = `
--set     OBJECT is an id from recognize, all, all.KIND or #rrggbb; names are ${NUMBERS.join(', ')} (mm, degrees), kind, underlay
kinds     ${KINDS.join(', ')}
underlay  none, or layers in sewing order joined by +: ${UNDERLAY_KINDS.join(', ')}, a spacing after @ (tatami@3.5+edge-run)`;

/** Reads one `OBJECT:name=value,…`. @throws UsageError that names what was not understood. */
export function parseSetting(text: string): Setting {
  const colon = text.indexOf(':');
  if (colon < 1) throw new UsageError(`--set takes OBJECT:name=value,…, got ${text}`);
  const object = text.slice(0, colon);
  const kind = object.startsWith('all.') ? object.slice(4) : undefined;
  if (kind !== undefined && KIND_WORDS[kind] === undefined)
    throw new UsageError(`--set ${text}: there is no kind ${kind}; there are ${KINDS.join(', ')}`);
  const values: { -readonly [K in keyof Setting['values']]: Setting['values'][K] } = {};
  for (const pair of text.slice(colon + 1).split(',')) {
    const [name = '', value = ''] = pair.split('=', 2);
    if (value === '') throw new UsageError(`--set ${text}: ${pair} is no name=value`);
    const number = NUMBERS.find((n) => n === name);
    if (number !== undefined) values[number] = parseNumber(text, number, value);
    else if (name === 'kind') values.kind = parseKind(text, value);
    else if (name === 'underlay') values.underlay = parseUnderlay(text, value);
    else throw new UsageError(`--set ${text}: there is no value ${name}; there are ${[...NUMBERS, 'kind', 'underlay'].join(', ')}`);
  }
  return { text, object, values };
}

function parseNumber(text: string, name: (typeof NUMBERS)[number], value: string): number {
  const number = Number(value);
  const read = ObjectSpec.shape[name].safeParse(number);
  if (!Number.isFinite(number)) throw new UsageError(`--set ${text}: ${name} takes a number, got ${value}`);
  if (!read.success) throw new UsageError(`--set ${text}: ${name} ${value} is out of range: ${read.error.issues[0]!.message}`);
  return number;
}

function parseKind(text: string, value: string): SpecKind {
  const kind = KIND_WORDS[value];
  if (kind === undefined) throw new UsageError(`--set ${text}: there is no kind ${value}; there are ${KINDS.join(', ')}`);
  return kind;
}

function parseUnderlay(text: string, value: string): UnderlaySpec[] {
  if (value === 'none') return [];
  return value.split('+').map((layer) => {
    const [kind, spacing] = layer.split('@', 2);
    const known = UNDERLAY_KINDS.find((k) => k === kind);
    if (known === undefined)
      throw new UsageError(`--set ${text}: there is no underlay ${kind}; there are none, ${UNDERLAY_KINDS.join(', ')}`);
    if (spacing === undefined) return { kind: known };
    const pitch = Number(spacing);
    if (!(pitch >= 0.5 && pitch <= 20)) throw new UsageError(`--set ${text}: ${layer} wants a spacing from 0.5 to 20 mm, got ${spacing}`);
    return { kind: known, spacing: pitch };
  });
}

/** The design with its objects sewn anew as settings say, one after another on the objects of the file. */
export function setSpecs(
  design: Design,
  settings: readonly Setting[],
): { readonly design: Design; readonly applied: readonly AppliedRepair[]; readonly refused: readonly RefusedRepair[] } {
  if (settings.length === 0) return { design, applied: [], refused: [] };
  const { objects } = objectsOf(design.plan);
  const covers = objects.filter((o) => o.role === 'cover');
  const specs = new Map<string, ObjectSpec>();
  const refused: RefusedRepair[] = [];
  const refuse = (object: string, why: string): void => void refused.push({ rule: 'set', objects: [object], why });
  for (const { text, object: wanted, values } of settings) {
    const picked = objects.filter((o) => isPicked(o, wanted));
    if (picked.length === 0) throw new UsageError(`--set ${text}: no object is ${wanted}; recognize lists them`);
    for (const object of wanted.startsWith('all') || wanted.startsWith('#') ? picked.filter((o) => covers.includes(o)) : picked) {
      const known = specs.get(object.id);
      if (design.plan.objects[object.id] === undefined) {
        refuse(object.id, `${object.name} is no cover; change the object that it belongs to`);
        continue;
      }
      const spec = known === undefined ? readObjectSpec(design, object.id) : { ok: true as const, value: known };
      if (!spec.ok) {
        refuse(object.id, spec.error);
        continue;
      }
      const needs = object.width === undefined ? {} : { width: object.width.mean };
      const turned = values.kind === undefined ? spec.value : asKind(spec.value, values.kind, design.target, needs);
      const named = (Object.keys(values) as (keyof Setting['values'])[]).filter(
        (n) => n === 'kind' || SPEC_VALUES[turned.kind].includes(n),
      );
      if (named.length === 0) {
        if (wanted === object.id) refuse(object.id, `a ${turned.kind} has no ${Object.keys(values).join(', ')}`);
        continue;
      }
      const changed = { ...turned, ...Object.fromEntries(named.filter((n) => n !== 'kind').map((n) => [n, values[n]])) };
      specs.set(object.id, changed);
    }
  }
  const edits = [...specs].map(([object, spec]): SpecEdit => ({ object, spec }));
  const sewn = sewSpecs(design, edits);
  for (const { object, why } of sewn.refused) refuse(object, why);
  const applied = sewn.done.map(({ object, name, before, after, notes }): AppliedRepair => ({
    rule: 'set',
    objects: [object],
    change: [`${name}: ${before} → ${after} stitches`, ...notes].join('; '),
  }));
  if (sewn.operations.length === 0) return { design, applied, refused };
  const next = applyOperation(design, { id: 'sequence', operations: [...sewn.operations] });
  if (!next.ok) throw new Error(`objects sewn anew do not fit their own program: ${next.error}`);
  return { design: next.value, applied, refused };
}

export function isPicked(object: StitchObject, wanted: string): boolean {
  if (wanted === 'all') return object.role === 'cover';
  if (wanted.startsWith('all.')) return (object.pattern ?? object.kind) === KIND_WORDS[wanted.slice(4)];
  if (wanted.startsWith('#')) return object.color === wanted.toLowerCase();
  return object.id === wanted;
}
