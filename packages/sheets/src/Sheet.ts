import { createRequire } from 'node:module';
import PDFDocument from 'pdfkit';

/** A4 in points, with margins to write on. */
const MARGIN = 48;
/** As high a drawing stands among the text, points. */
const MOST_DRAWN = 330;
const A4: [number, number] = [595.28, 841.89];
const INK = '#14262b';
const SOFT = '#46575b';
const LINE = '#ddd8cb';

const { resolve: fileOf } = createRequire(import.meta.url);
const fontOf = (weight: 400 | 600): string => fileOf(`@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-${weight}-normal.woff`);

interface Size {
  readonly width: number;
  readonly height: number;
}

/** The narrow space between thousands, which the type on paper does not have, as one that it has. */
const spaced = (text: string): string => text.replaceAll('\u202f', '\u00a0');

/** A document to print: text in the application's own type, set from top to bottom, on as many pages as it takes. */
export class Sheet {
  private readonly doc: PDFKit.PDFDocument;
  private readonly pieces: Buffer[] = [];
  private readonly done: Promise<void>;

  constructor(title: string) {
    this.doc = new PDFDocument({ size: 'A4', margin: MARGIN, bufferPages: true, info: { Title: title, Creator: 'Isola' } });
    this.doc.registerFont('plain', fontOf(400)).registerFont('strong', fontOf(600));
    this.done = new Promise((resolve) => this.doc.once('end', () => resolve()));
    this.doc.on('data', (piece: Buffer) => this.pieces.push(piece));
  }

  private get width(): number {
    return this.doc.page.width - 2 * MARGIN;
  }

  title(text: string): this {
    this.doc.font('strong').fontSize(18).fillColor(INK).text(spaced(text), MARGIN);
    return this;
  }

  heading(text: string): this {
    this.room(60);
    this.doc.moveDown(0.8).font('strong').fontSize(12).fillColor(INK).text(spaced(text), MARGIN).moveDown(0.2);
    return this;
  }

  text(text: string, isSoft = false): this {
    this.doc
      .font('plain')
      .fontSize(9.5)
      .fillColor(isSoft ? SOFT : INK)
      .text(spaced(text), MARGIN, undefined, { width: this.width });
    return this;
  }

  /** What is known by name: two columns of words. */
  facts(rows: readonly (readonly [name: string, value: string])[]): this {
    this.doc.moveDown(0.4);
    for (const [name, value] of rows) {
      this.room(16);
      const { y } = this.doc;
      this.doc.font('plain').fontSize(9.5).fillColor(SOFT).text(name, MARGIN, y, { width: 110 });
      this.doc.fillColor(INK).text(spaced(value), MARGIN + 118, y, { width: this.width - 118 });
    }
    return this;
  }

  /** A table: heads, rows, and how wide each column is in shares of the page; columns from the second on are set to the right where they hold numbers. */
  table(
    heads: readonly string[],
    rows: readonly (readonly string[])[],
    shares: readonly number[],
    swatches: readonly (string | undefined)[] = [],
  ): this {
    const sum = shares.reduce((a, b) => a + b, 0);
    const widths = shares.map((share) => (share / sum) * this.width);
    const put = (cells: readonly string[], isHead: boolean, swatch?: string): void => {
      this.doc.font('plain').fontSize(9);
      const height = Math.max(...cells.map((cell, k) => this.doc.heightOfString(cell || ' ', { width: widths[k]! - 8 })));
      this.room(height + 6);
      const { y } = this.doc;
      let x = MARGIN;
      cells.forEach((cell, k) => {
        const indent = k === 0 && swatch !== undefined ? 14 : 0;
        if (indent > 0)
          this.doc
            .rect(x, y + 1, 8, 8)
            .lineWidth(0.5)
            .fillAndStroke(swatch, SOFT);
        this.doc.fillColor(isHead ? SOFT : INK).text(spaced(cell), x + indent, y, {
          width: widths[k]! - 8 - indent,
          align: k > 0 && /^[\d–—]/.test(rows[0]?.[k] ?? '') ? 'right' : 'left',
        });
        x += widths[k]!;
      });
      this.doc.y = y + height + 3;
      this.doc
        .moveTo(MARGIN, this.doc.y)
        .lineTo(MARGIN + this.width, this.doc.y)
        .lineWidth(0.4)
        .strokeColor(LINE)
        .stroke();
      this.doc.y += 3;
    };
    put(heads, true);
    rows.forEach((row, k) => put(row, false, swatches[k]));
    return this;
  }

  /** Whether a drawing of a size (points) stands among the text. */
  takes({ width, height }: Size): boolean {
    return width <= this.width && height <= MOST_DRAWN;
  }

  /** Something drawn, of a size (points): among the text where there is room, else on a page of its own, as large as that takes. `draw` gets its middle. */
  drawing(size: Size, draw: (doc: PDFKit.PDFDocument, middle: { readonly x: number; readonly y: number }) => void): this {
    const { width, height } = size;
    if (this.takes(size)) {
      this.room(height + 8);
      const { y } = this.doc;
      draw(this.doc, { x: MARGIN + this.width / 2, y: y + 4 + height / 2 });
      this.doc.x = MARGIN;
      this.doc.y = y + height + 12;
      return this;
    }
    const page: [number, number] = [Math.max(A4[0], width + 2 * MARGIN), Math.max(A4[1], height + 3 * MARGIN)];
    this.doc.addPage({ size: page, margin: MARGIN });
    draw(this.doc, { x: page[0] / 2, y: MARGIN + height / 2 });
    return this;
  }

  /** A numbered entry: what it says first, what belongs to it beneath, a rule after it. */
  entry(mark: string, strong: string, lines: readonly string[]): this {
    const indent = 62;
    const width = this.width - indent;
    this.doc.font('strong').fontSize(10);
    const height =
      this.doc.heightOfString(strong, { width }) +
      lines.reduce((sum, line) => sum + this.doc.font('plain').fontSize(9).heightOfString(line, { width }), 0);
    this.room(Math.min(height + 14, 300));
    const { y } = this.doc;
    this.doc
      .font('strong')
      .fontSize(10)
      .fillColor(INK)
      .text(mark, MARGIN, y, { width: indent - 8 });
    this.doc.text(spaced(strong), MARGIN + indent, y, { width });
    for (const line of lines)
      this.doc
        .font('plain')
        .fontSize(9)
        .fillColor(SOFT)
        .text(spaced(line), MARGIN + indent, undefined, { width });
    this.doc.moveDown(0.4);
    this.doc
      .moveTo(MARGIN, this.doc.y)
      .lineTo(MARGIN + this.width, this.doc.y)
      .lineWidth(0.5)
      .strokeColor(LINE)
      .stroke();
    this.doc.moveDown(0.4);
    return this;
  }

  /** Begins another page where so much (points) does not fit. */
  private room(height: number): void {
    if (this.doc.y + height > this.doc.page.height - MARGIN) this.doc.addPage();
  }

  /** The finished file; every page has its number and what is said at its foot. */
  async finish(foot: string): Promise<Buffer> {
    const { start, count } = this.doc.bufferedPageRange();
    for (let page = start; page < start + count; page++) {
      this.doc.switchToPage(page);
      this.doc.page.margins.bottom = 0;
      const y = this.doc.page.height - MARGIN + 12;
      this.doc.font('plain').fontSize(8).fillColor(SOFT);
      this.doc.text(foot, MARGIN, y, { width: this.width - 60, lineBreak: false });
      this.doc.text(`${page + 1} / ${count}`, MARGIN, y, { width: this.width, align: 'right', lineBreak: false });
    }
    this.doc.end();
    await this.done;
    return Buffer.concat(this.pieces);
  }
}
