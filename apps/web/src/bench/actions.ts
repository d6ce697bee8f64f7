import { type ClothViewKind, VIEWS } from './cloth/views/views.ts';

/** A key as it is pressed; a modifier that is not named must not be held, but Shift may be for a sign that needs it. */
export interface Key {
  readonly key: string;
  readonly alt?: true;
  readonly shift?: true;
  readonly control?: true;
}

/** What can be done on the bench by a key. Those that say the same stand in one line of the sheet. */
export interface Action<Id extends string = string> {
  readonly id: Id;
  readonly keys: readonly Key[];
  /** The key as it is written. */
  readonly label: string;
  readonly says: string;
}

const key = (name: string, held: Omit<Key, 'key'> = {}): Key => ({ key: name, ...held });

const VIEW_LINE = VIEWS.map(({ name }) => name.toLowerCase()).join(', ');

/** The action that shows a view. */
export type ViewAction = `view-${ClothViewKind}`;

const VIEW_ACTIONS = VIEWS.map(({ id }, k): Action<ViewAction> => {
  const label = String(k + 1);
  return { id: `view-${id}`, keys: [key(label)], label, says: VIEW_LINE };
});

const OTHERS = [
  { id: 'play', keys: [key(' ')], label: 'Space', says: 'replay, pause' },
  { id: 'stitch-back', keys: [key('ArrowLeft')], label: '←', says: 'one stitch back, on' },
  { id: 'stitch-on', keys: [key('ArrowRight')], label: '→', says: 'one stitch back, on' },
  { id: 'ten-back', keys: [key('ArrowLeft', { shift: true })], label: 'Shift ←', says: 'ten stitches' },
  { id: 'ten-on', keys: [key('ArrowRight', { shift: true })], label: '→', says: 'ten stitches' },
  {
    id: 'part-back',
    keys: [key('ArrowLeft', { alt: true })],
    label: 'Alt ←',
    says: 'stretch before, after; on Rework the object before, after',
  },
  {
    id: 'part-on',
    keys: [key('ArrowRight', { alt: true })],
    label: '→',
    says: 'stretch before, after; on Rework the object before, after',
  },
  { id: 'finding-next', keys: [key('n')], label: 'N', says: 'next finding, the one before' },
  { id: 'finding-before', keys: [key('p')], label: 'P', says: 'next finding, the one before' },
  { id: 'try', keys: [key('t')], label: 'T', says: 'try the repair of the selected finding' },
  { id: 'accept', keys: [key('Enter')], label: 'Enter', says: 'accept what is being tried' },
  { id: 'plan', keys: [key('r')], label: 'R', says: 'on Audit: plan the whole repair, what of it costs nothing' },
  { id: 'free', keys: [key('f')], label: 'F', says: 'on Audit: plan the whole repair, what of it costs nothing' },
  { id: 'keep', keys: [key('k')], label: 'K', says: 'keep the selected finding as it is' },
  ...VIEW_ACTIONS,
  { id: 'show-all', keys: [key('a')], label: 'A', says: 'on Rework: everything, cover, underlay, travel and ties' },
  { id: 'show-cover', keys: [key('c')], label: 'C', says: 'on Rework: everything, cover, underlay, travel and ties' },
  { id: 'show-underlay', keys: [key('u')], label: 'U', says: 'on Rework: everything, cover, underlay, travel and ties' },
  { id: 'show-travel', keys: [key('v')], label: 'V', says: 'on Rework: everything, cover, underlay, travel and ties' },
  { id: 'join', keys: [key('j')], label: 'J', says: 'on Rework: join the object with the next, split it at this stitch' },
  { id: 'split', keys: [key('s')], label: 'S', says: 'on Rework: join the object with the next, split it at this stitch' },
  { id: 'order', keys: [key('o')], label: 'O', says: 'on Rework: propose a better sew order' },
  { id: 'fit', keys: [key('0')], label: '0', says: 'fit the design' },
  { id: 'nearer', keys: [key('+'), key('=')], label: '+', says: 'nearer, farther' },
  { id: 'farther', keys: [key('-')], label: '−', says: 'nearer, farther' },
  { id: 'undo', keys: [key('z', { control: true })], label: 'Ctrl Z', says: 'undo, do again' },
  { id: 'redo', keys: [key('z', { control: true, shift: true })], label: 'Ctrl Shift Z', says: 'undo, do again' },
  { id: 'history', keys: [key('h')], label: 'H', says: 'the history: all steps, to look at and go to' },
  { id: 'back', keys: [key('Escape')], label: 'Escape', says: 'one step back: put back, let go, whole design' },
  { id: 'sheet', keys: [key('?')], label: '?', says: 'this sheet' },
] as const satisfies readonly Action[];

export type ActionId = (typeof OTHERS)[number]['id'];

/** All that can be done by keys, in the order of the sheet: what a key does is looked up here, and the sheet is this table. */
export const ACTIONS: readonly Action<ActionId>[] = OTHERS;

/** The action that a key press asks for; none where it asks for none. */
export function actionOf(event: KeyboardEvent): ActionId | undefined {
  return ACTIONS.find(({ keys }) => keys.some((wanted) => isPressed(wanted, event)))?.id;
}

function isPressed(wanted: Key, { key: pressed, altKey, shiftKey, ctrlKey, metaKey }: KeyboardEvent): boolean {
  if ((wanted.control === true) !== (ctrlKey || metaKey)) return false;
  const isNamed = wanted.key.length > 1 || wanted.control === true;
  // A sign may need Shift, and letters are the same with it; only arrows and the like mean something else.
  if (isNamed && (wanted.shift === true) !== shiftKey) return false;
  if ((wanted.alt === true) !== altKey && wanted.key.startsWith('Arrow')) return false;
  return pressed === wanted.key || (wanted.control === true && pressed.toLowerCase() === wanted.key);
}

/** The lines of the sheet of keys: actions that say the same stand together. */
export function keyLines(actions: readonly Action[] = ACTIONS): { readonly keys: string; readonly says: string }[] {
  const lines: { keys: string; says: string }[] = [];
  for (const { label, says } of actions) {
    const last = lines[lines.length - 1];
    if (last?.says === says) last.keys += label.includes(' ') ? `, ${label}` : ` ${label}`;
    else lines.push({ keys: label, says });
  }
  return lines;
}
