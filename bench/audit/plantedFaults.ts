import { type Design, type ObjectSpec, orderOf, ProgramBuilder, type Program, startDesign, type Target } from '@isola/core';
import { boxOfRing } from '../../packages/core/src/geometry/ring.ts';
import { type Drawing, type Piece, sewn, targetOn, wanted } from './soundSet.ts';

// Faults put into sound drawings, one at a time, so that it is known where one has to be found.

/** What was planted, sewn to a bare program and read again; and the box (mm) that it has to be found in, none where it is the whole design's. */
export interface Planted {
  readonly design: Design;
  readonly box?: readonly number[];
}

type Change = (piece: Piece, target: Target) => Piece;

/** Pieces of a drawing by what they are. */
const [TILE, OUTLINED, SHAPE, COLUMN, SECOND_TILE, SECOND_SHAPE, BROAD, NARROW, LINE] = [0, 1, 2, 3, 4, 5, 6, 8, 9] as const;

function changed(drawing: Drawing, at: number, change: Change): Planted {
  const pieces = drawing.pieces.map((piece, k) => (k === at ? change(piece, drawing.target) : piece));
  return { design: sewn({ ...drawing, pieces }), box: boxOfPiece(pieces[at]!) };
}

function respec(at: number, change: (spec: ObjectSpec, target: Target) => Partial<ObjectSpec>): (drawing: Drawing) => Planted {
  return (drawing) => changed(drawing, at, (piece, target) => ({ ...piece, spec: { ...piece.spec, ...change(piece.spec, target) } }));
}

function boxOfPiece({ shape }: Piece): number[] {
  const points = shape.kind === 'area' ? shape.rings.flat() : shape.kind === 'column' ? [...shape.left, ...shape.right] : shape.path;
  return [...boxOfRing(Float64Array.from(points))];
}

const column = (x: number, width: number, length = 26): Piece['shape'] => ({
  kind: 'column',
  left: [x, 0, x, length],
  right: [x + width, 0, x + width, length],
});

function added(drawing: Drawing, ...more: Piece[]): Drawing {
  return { ...drawing, pieces: [...drawing.pieces, ...more] };
}

/** Pieces by how far out they lie from the middle of the brim, the farthest first; sideways counts twice. */
function outsideIn({ pieces }: Drawing): number[] {
  const boxes = pieces.map(boxOfPiece);
  const [left, brim, right] = [
    Math.min(...boxes.map((b) => b[0]!)),
    Math.min(...boxes.map((b) => b[1]!)),
    Math.max(...boxes.map((b) => b[2]!)),
  ];
  const out = boxes.map(([minX, minY, maxX, maxY]) => Math.hypot((minX! + maxX! - left - right) / 2, ((minY! + maxY!) / 2 - brim) / 2));
  return pieces.map((_, k) => k).sort((a, b) => Math.round(out[b]! - out[a]!) || a - b);
}

function reordered(drawing: Drawing, order: readonly number[]): Drawing {
  return { ...drawing, pieces: order.map((k) => drawing.pieces[k]!) };
}

/** A program with rows put in or taken away behind some row. */
function edited({ program, target }: Design, at: number, rows: readonly (readonly [number, number])[], without = 0): Design {
  const builder = new ProgramBuilder();
  builder.copy(program, 0, at + 1);
  for (const [x, y] of rows) builder.stitch(x, y);
  builder.copy(program, at + 1 + without, program.rowCount);
  return startDesign(builder.build(), target);
}

/** A row in the middle of what an object is sewn with. */
function middleOf({ plan }: Design, which: (kind: string) => boolean): number {
  for (const id of orderOf(plan)) {
    const { reading, rows } = plan.objects[id]!.sewn;
    if (which(reading.kind) && 'end' in rows && reading.stitches > 40) return (rows.first + rows.end) >> 1;
  }
  return plan.source.rowCount >> 1;
}

function around({ x, y }: Program, row: number): number[] {
  return [x[row]! - 1, y[row]! - 1, x[row]! + 1, y[row]! + 1];
}

function inserted(drawing: Drawing, kind: string, rows: (x: number, y: number) => (readonly [number, number])[]): Planted {
  const design = sewn(drawing);
  const at = middleOf(design, (k) => k === kind);
  return { design: edited(design, at, rows(design.program.x[at]!, design.program.y[at]!)), box: around(design.program, at) };
}

/** How each kind of fault is put into a drawing. */
export const IN_DRAWINGS: Readonly<Record<string, (drawing: Drawing) => Planted>> = {
  'too-open': respec(SHAPE, ({ spacing }) => ({ spacing: spacing * 1.45 })),
  'too-dense': respec(SECOND_SHAPE, ({ spacing }) => ({ spacing: spacing * 0.5 })),
  'thread-mismatch': (drawing) => ({
    design: sewn({
      ...drawing,
      pieces: drawing.pieces.map((piece) =>
        piece.spec.kind === 'run' ? piece : { ...piece, spec: { ...piece.spec, spacing: piece.spec.spacing * 1.155 } },
      ),
    }),
  }),
  'no-underlay': respec(SHAPE, () => ({ underlay: [] })),
  'wrong-underlay': respec(BROAD, () => ({ underlay: [{ kind: 'center-run' }] })),
  'underlay-order': respec(SECOND_SHAPE, ({ underlay }) => ({ underlay: [...underlay].reverse() })),
  'underlay-bulk': respec(SHAPE, () => ({ underlay: [{ kind: 'tatami', spacing: 1.3 }] })),
  'underlay-showing': respec(SHAPE, () => ({ spacing: 1.6, underlay: [{ kind: 'tatami', spacing: 3 }] })),
  'needless-edge-run': respec(OUTLINED, () => ({ underlay: [{ kind: 'tatami', spacing: 3.5 }, { kind: 'edge-run' }] })),
  'same-angle': respec(SECOND_TILE, () => ({ angle: 48 })),
  'gap-risk': (drawing) => ({
    design: sewn({
      ...drawing,
      pieces: drawing.pieces.map((piece, k): Piece => {
        if (k !== TILE && k !== SECOND_TILE) return piece;
        const x = k === TILE ? 0 : 26.05;
        const ring = [x, 0, x + (k === TILE ? 26 : 24), 0, x + (k === TILE ? 26 : 24), 22, x, 22];
        return {
          ...piece,
          shape: { kind: 'area', rings: [ring] },
          spec: { ...piece.spec, angle: k === TILE ? 10 : 170, pull: 0, underlay: [] },
        };
      }),
    }),
    box: [22, -1, 30, 23],
  }),
  'wide-satin': (drawing) =>
    changed(drawing, BROAD, (piece, target) => ({
      ...piece,
      shape: column(130, 7.7),
      spec: { ...wanted('satin', target, 7.7), splitLength: 12 },
    })),
  'satin-should-be-fill': (drawing) =>
    changed(drawing, BROAD, (piece, target) => ({
      ...piece,
      shape: column(130, 10.6),
      spec: { ...wanted('satin', target, 10.6), splitLength: 12 },
    })),
  'thin-satin': (drawing) =>
    changed(drawing, NARROW, (piece) => ({
      ...piece,
      shape: column(142, 0.7),
      spec: { ...piece.spec, pull: 0, underlay: [{ kind: 'center-run' }] },
    })),
  'fill-should-be-satin': (drawing) =>
    changed(drawing, COLUMN, (piece, target) => ({
      ...piece,
      shape: { kind: 'area', rings: [[120, 0, 124, 0, 124, 26, 120, 26]] },
      spec: wanted('fill', target, 0, 60),
    })),
  'stacked-cover': (drawing) => {
    const top = (dy: number, angle: number): Piece => ({
      ...drawing.pieces[SHAPE]!,
      color: dy === 0 ? '#86a05a' : '#c9c2b4',
      spec: { ...drawing.pieces[SHAPE]!.spec, angle },
    });
    return { design: sewn(added(drawing, top(0, 75), top(1, 120), top(2, 165))), box: boxOfPiece(drawing.pieces[SHAPE]!) };
  },
  perforation: (drawing) =>
    changed({ ...drawing, target: targetOn('leather') }, LINE, (piece) => ({ ...piece, spec: { ...piece.spec, stitchLength: 0.9 } })),
  'same-hole': (drawing) =>
    inserted(drawing, 'fill', (x, y) =>
      Array.from({ length: 22 }, (_, k): [number, number] => (k % 2 === 0 ? [x + 1.2, y + 0.4 * (k % 4)] : [x, y])),
    ),
  'tiny-stitch': (drawing) =>
    inserted(drawing, 'satin', (x, y) => Array.from({ length: 4 }, (_, k): [number, number] => [x + 0.1 * (k + 1), y])),
  'long-stitch': (drawing) =>
    inserted(drawing, 'fill', (x, y) => [
      [x + 6.5, y + 5.5],
      [x, y],
    ]),
  'machine-step': (drawing) =>
    inserted(drawing, 'fill', (x, y) => [
      [x + 12, y + 9],
      [x, y],
    ]),
  'tie-inside-path': (drawing) =>
    inserted(drawing, 'fill', (x, y) => [
      [x + 0.6, y],
      [x, y],
      [x + 0.6, y],
      [x, y],
    ]),
  'missing-tie': (drawing) => {
    const design = sewn(drawing);
    const first = design.program.command.indexOf(1);
    let at = first;
    while (design.program.command[at] !== 0) at++;
    return { design: edited(design, at, [], 4), box: around(design.program, at) };
  },
  'needless-trim': (drawing) => {
    const piece = dot(drawing);
    return { design: sewn(added(drawing, piece(0), piece(1), piece(2))), box: [148, -32, 162, -26] };
  },
  'far-entry': (drawing) => {
    // Tiles side by side, the second begun on its far side.
    const tile = (x: number, angle: number): Piece => ({
      color: '#a4452c',
      spec: wanted('fill', drawing.target, 0, angle),
      shape: { kind: 'area', rings: [[x + 14, 20, x, 20, x, 0, x + 14, 0]] },
    });
    return { design: sewn(added(drawing, tile(170, 90), tile(184.6, 90))), box: [166, -3, 204, 24] };
  },
  'color-return': (drawing) => ({ design: sewn(reordered(drawing, [0, 4, 1, 5, 2, 6, 3, 7, 8, 9])) }),
  'mergeable-color': (drawing) => ({
    design: sewn({ ...drawing, pieces: drawing.pieces.map((piece, k) => (k === BROAD ? { ...piece, color: '#d7b56b' } : piece)) }),
  }),
  'split-pieces': (drawing) =>
    changed(drawing, SECOND_TILE, (piece) => ({ ...piece, color: drawing.pieces[TILE]!.color, spec: { ...piece.spec, angle: 45 } })),
  'detail-under-cover': (drawing) => {
    const detail: Piece = {
      color: '#d8b56a',
      spec: wanted('fill', drawing.target, 0, 100),
      shape: { kind: 'area', rings: [[8, 7, 18, 7, 18, 15, 8, 15]] },
    };
    return { design: sewn({ ...drawing, pieces: [detail, ...drawing.pieces] }), box: [7, 6, 19, 16] };
  },
  'small-before-large': (drawing) => {
    const small: Piece = {
      color: '#1f3350',
      spec: wanted('fill', drawing.target, 0, 135),
      shape: { kind: 'area', rings: [[-5.2, 4, -0.1, 4, -0.1, 10, -5.2, 10]] },
    };
    return { design: sewn({ ...drawing, pieces: [small, ...drawing.pieces] }), box: [-7, 2, 1, 12] };
  },
  'marks-first': (drawing) => {
    const arm = (path: number[]): Piece => ({
      color: '#a4452c',
      spec: { ...wanted('run', drawing.target, 0), passes: 1 },
      shape: { kind: 'line', path },
    });
    return { design: sewn(added(drawing, arm([170, 0, 180, 0, 175, 0, 175, 5, 175, -5, 175, 0]))), box: [168, -7, 182, 7] };
  },
  'center-out': (drawing) => ({ design: sewn({ ...reordered(drawing, outsideIn(drawing)), target: targetOn('cap-front') }) }),
  'pile-unheld': (drawing) => ({ design: sewn({ ...drawing, target: targetOn('fleece') }) }),
  'detail-too-small': (drawing) =>
    changed({ ...drawing, target: targetOn('terry') }, NARROW, (piece) => ({
      ...piece,
      shape: column(142, 1.2),
      spec: { ...piece.spec, pull: 0 },
    })),
  'thread-vanishes': (drawing) => ({
    design: sewn({ ...drawing, target: { ...drawing.target, clothColor: '#20354f' } }),
    box: boxOfPiece(drawing.pieces[SHAPE]!),
  }),
  'hoop-overflow': (drawing) => ({
    design: sewn({ ...drawing, target: { ...drawing.target, hoop: { id: 'small', name: 'small', width: 90, height: 90 } } }),
  }),
  'zone-overflow': (drawing) => ({
    design: sewn({
      ...drawing,
      target: { ...drawing.target, garment: { id: 'cuff', name: 'cuff', width: 60, height: 40, hoopId: 'jacket-back' } },
    }),
  }),
  'stitch-budget': (drawing) => ({
    design: sewn({
      ...drawing,
      target: { ...targetOn('poplin'), garment: { id: 'pocket', name: 'pocket', width: 120, height: 60, hoopId: 'jacket-back' } },
    }),
  }),
  'too-many-colors': (drawing) => ({
    design: sewn({ ...drawing, target: { ...drawing.target, machine: { ...drawing.target.machine, needles: 2 } } }),
  }),
  'needless-jump': (drawing) => {
    const piece = dot(drawing);
    return { design: withoutLastTrims(sewn(added(drawing, piece(0), piece(1), piece(2))), 2), box: [148, -32, 162, -26] };
  },
};

/** Short columns in a row, each ending within one stitch of where the next begins. */
function dot({ target }: Drawing): (k: number) => Piece {
  return (k) => {
    const [from, to] = [150 + k * 3.2, 152.6 + k * 3.2];
    return {
      color: '#a4452c',
      spec: { ...wanted('satin', target, 1.4), underlay: [], pull: 0 },
      shape: { kind: 'column', left: [from, -30, to, -30], right: [from, -28.6, to, -28.6] },
    };
  };
}

/** The same rows with the last cuts left uncut: the thread floats from piece to piece. */
function withoutLastTrims({ program, target }: Design, count: number): Design {
  const trims = [...program.command.keys()].filter((row) => program.command[row] === 2);
  const gone = new Set(trims.slice(-count - 1, -1));
  const builder = new ProgramBuilder();
  for (let row = 0; row < program.rowCount; row++) if (!gone.has(row)) builder.copy(program, row, row + 1);
  return startDesign(builder.build(), target);
}
