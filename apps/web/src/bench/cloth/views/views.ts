/**
 * The views of the cloth, in the order in which they are offered and numbered by keys. `picture` says whether thread is painted or figures
 * ({@link PAINTERS}); `needs` what has to be known before there is something to see.
 */
export const VIEWS = [
  { id: 'thread', name: 'Thread', picture: 'thread', needs: [] },
  { id: 'penetrations', name: 'Penetrations', picture: 'figures', needs: [] },
  { id: 'cover', name: 'Cover map', picture: 'figures', needs: ['cover'] },
  { id: 'paths', name: 'Paths', picture: 'figures', needs: [] },
  { id: 'directions', name: 'Directions', picture: 'figures', needs: [] },
  { id: 'layers', name: 'Layers', picture: 'figures', needs: ['objects'] },
  { id: 'sewn', name: 'As sewn', picture: 'thread', needs: ['objects', 'sewn'] },
] as const satisfies readonly View[];

/** What a view is, apart from how it is drawn and what its legend says. */
interface View {
  readonly id: string;
  /** As it is called where it is chosen. */
  readonly name: string;
  readonly picture: 'thread' | 'figures';
  readonly needs: readonly ('cover' | 'objects' | 'sewn')[];
}

export type ClothViewKind = (typeof VIEWS)[number]['id'];
export type FigureViewKind = Extract<(typeof VIEWS)[number], { picture: 'figures' }>['id'];

/** Whether a view shows figures instead of thread. */
export function isFigureView(kind: ClothViewKind): kind is FigureViewKind {
  return viewOf(kind).picture === 'figures';
}

export function viewOf(kind: ClothViewKind): View {
  return VIEWS.find((view) => view.id === kind)!;
}
