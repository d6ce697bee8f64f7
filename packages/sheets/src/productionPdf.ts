import { type Extents, type Program, type ProductionSheet, sayCount } from '@isola/core';
import { Sheet } from './Sheet.ts';
import { drawStitches, POINT } from './stitchPicture.ts';

/** A design as it lies in the hoop, to be drawn at true size. */
export interface PlacedPicture {
  readonly program: Program;
  readonly extents: Extents;
}

/** Of the bar by which a print is checked, mm. */
const BAR = 50;
/** Room around the picture for its marks and the bar, mm. */
const AROUND = 9;

const clock = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
function hours(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
}

/** The production sheet as a PDF: what the operator needs, with the design at true size. `head`: job, and which state of it; `foot`: on every page. */
export async function productionPdf(
  { title, state }: { readonly title: string; readonly state: string },
  sheet: ProductionSheet,
  { program, extents }: PlacedPicture,
): Promise<Buffer> {
  const out = new Sheet(`Production sheet of ${title}`).title(title).text(state, true);
  const room = { width: (extents.width + 2 * AROUND) * POINT, height: (extents.height + 2 * AROUND) * POINT };
  const draw = (doc: PDFKit.PDFDocument, middle: { readonly x: number; readonly y: number }): void => {
    drawStitches(doc, program, extents, middle);
    const [left, bottom] = [middle.x - (extents.width / 2) * POINT, middle.y + (extents.height / 2) * POINT];
    // Where the middle of the design lies, beside it on all four sides.
    doc.save().lineWidth(0.6).strokeColor('#46575b');
    const [half, high] = [(extents.width / 2) * POINT, (extents.height / 2) * POINT];
    for (const [x0, y0, x1, y1] of [
      [middle.x, middle.y - high - 12, middle.x, middle.y - high - 3],
      [middle.x, middle.y + high + 3, middle.x, middle.y + high + 12],
      [middle.x - half - 12, middle.y, middle.x - half - 3, middle.y],
      [middle.x + half + 3, middle.y, middle.x + half + 12, middle.y],
    ] as const)
      doc.moveTo(x0, y0).lineTo(x1, y1).stroke();
    // The bar by which the print is checked.
    const y = bottom + 16;
    const from = Math.min(left, middle.x - (BAR / 2) * POINT);
    doc
      .moveTo(from, y - 3)
      .lineTo(from, y)
      .lineTo(from + BAR * POINT, y)
      .lineTo(from + BAR * POINT, y - 3)
      .stroke();
    doc.font('plain').fontSize(8).fillColor('#46575b');
    doc.text(`${BAR} mm: measure it. If it is not, the print is not true to size`, from + BAR * POINT + 6, y - 8, { lineBreak: false });
    doc.restore();
  };
  // A design that takes a page of its own stands on the last one.
  const isAmong = out.takes(room);
  if (isAmong) out.drawing(room, draw);
  out.facts([
    ...sheet.facts,
    ['One piece', `${clock(sheet.onePiece)} (an estimate)`],
    [
      'The order',
      `${hours(sheet.order)} in ${sheet.runs === 1 ? 'one run' : `${sayCount(sheet.runs)} runs`}, without hooping and breaks (an estimate)`,
    ],
  ]);
  if (sheet.missingNeedles > 0)
    out.text(
      `${sheet.missingNeedles === 1 ? 'One thread has' : `${sheet.missingNeedles} threads have`} no needle: put on by hand when the machine waits.`,
    );
  out.heading('Threads in order');
  out.table(
    ['thread', 'needle', 'turn', 'stitches'],
    sheet.turns.map(({ turn, needle, color, name, stitches }) => [name || color, String(needle), String(turn), sayCount(stitches)]),
    [5, 1, 1, 2],
    sheet.turns.map(({ color }) => color),
  );
  out.heading('Thread for the order');
  out.table(
    ['thread', 'a piece, m', 'the order, m', 'cones'],
    sheet.threads.map(({ color, name, onePiece, order, cones }) => [
      name || color,
      onePiece.toFixed(1),
      sayCount(Math.ceil(order)),
      cones.toFixed(2),
    ]),
    [5, 2, 2, 1],
    sheet.threads.map(({ color }) => color),
  );
  if (sheet.stops.length > 0) {
    out.heading('Stops: the machine waits for you');
    for (const { number, at, after, note } of sheet.stops)
      out.entry(`${number}  ${clock(at)}`, note === '' ? 'Nothing is said of it: ask before you go on' : note, [`after turn ${after}`]);
  }
  if (sheet.kept.length > 0) {
    out.heading('Kept as it is');
    for (const { title: kept, reason, count } of sheet.kept)
      out.entry('kept', kept, [`${reason}${count > 1 ? `, at ${count} places` : ''}`]);
  }
  out.heading('Cautions');
  for (const caution of sheet.cautions) out.text(`•  ${caution}`);
  if (!isAmong) out.drawing(room, draw);
  return out.finish(`${title}: ${state}. Times and lengths are estimates: sew a sample on the real cloth first. Isola`);
}
