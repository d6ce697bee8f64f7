import { describe, expect, test } from '@jest/globals';
import { inflateSync } from 'node:zlib';
import { countProgram, defaultTarget, HOOPS, productionSheet, ProgramBuilder, type Target } from '@isola/core';
import type { PDFRawStream, PDFRef } from 'pdf-lib';
import { PDFArray, PDFDict, PDFDocument, PDFName } from 'pdf-lib';
import { productionPdf } from './productionPdf.ts';
import { POINT } from './stitchPicture.ts';

/** A frame of stitches of this size, mm, in two threads with a stop between them. */
function frame(width: number, height: number) {
  const out = new ProgramBuilder().color('#fff8e0', 'Cream').jump(0, 0);
  for (const [x, y] of [
    [0, 0],
    [width, 0],
    [width, height],
  ] as const)
    out.stitch(x, y);
  out.trim().stop('Lay the badge fabric').color('#1f4e79', 'Deep water').jump(0, height).stitch(0, height).stitch(0, 0);
  return out.end().build();
}

async function pdfOf(width: number, height: number, more: Partial<Target> = {}) {
  const program = frame(width, height);
  const target = { ...defaultTarget(), quantity: 25, ...more };
  const kept = {
    a: { rule: 'r', title: 'Two ends are not locked', reason: 'glued on' },
    b: { rule: 'r', title: 'Two ends are not locked', reason: 'glued on' },
  };
  const sheet = productionSheet({ program, target, kept });
  const bytes = await productionPdf({ title: 'Wing', state: 'wing.csv, not released' }, sheet, {
    program,
    extents: countProgram(program).extents,
  });
  return { bytes, sheet, pdf: await PDFDocument.load(bytes) };
}

/** What a page draws, as PDF operators (ISO 32000-1, 8.5), line by line. */
function contentOf(pdf: PDFDocument, page: number): string {
  const contents = pdf.getPage(page).node.Contents();
  const streams = contents instanceof PDFArray ? contents.asArray().map((ref) => pdf.context.lookup(ref as PDFRef)) : [contents];
  return streams.map((stream) => inflateSync((stream as PDFRawStream).contents).toString('latin1')).join('\n');
}

/** Level lines of one stroke, by their lengths in mm. */
function levelLines(content: string): number[] {
  const lengths: number[] = [];
  let at: [number, number] = [0, 0];
  for (const [, x, y, operator] of content.matchAll(/(?<![-\d.])([-\d.]{1,20}) ([-\d.]{1,20}) ([ml])\b/g)) {
    const to: [number, number] = [Number(x), Number(y)];
    if (operator === 'l' && Math.abs(to[1] - at[1]) < 0.01) lengths.push(Math.abs(to[0] - at[0]) / POINT);
    at = to;
  }
  return lengths;
}

// Read back by another author's library (pdf-lib); sizes of paper as in ISO 216.
describe('a production sheet', () => {
  test('has the design and a bar of 50 mm at true size, its fonts with it, on A4', async () => {
    const { pdf } = await pdfOf(80, 60);
    const { width, height } = pdf.getPage(0).getSize();
    expect([width / POINT, height / POINT].map((mm) => Math.round(mm))).toEqual([210, 297]);
    expect(pdf.getPageCount()).toBeLessThanOrEqual(2);
    const lines = levelLines(contentOf(pdf, 0));
    expect(lines.some((mm) => Math.abs(mm - 50) < 0.02)).toBe(true);
    // The frame's lower edge, drawn twice: a pale thread has a darker line beneath it.
    expect(lines.filter((mm) => Math.abs(mm - 80) < 0.02)).toHaveLength(2);
    const fonts = pdf.context
      .enumerateIndirectObjects()
      .flatMap(([, object]) =>
        object instanceof PDFDict && object.lookup(PDFName.of('Type')) === PDFName.of('FontDescriptor') ? [object] : [],
      );
    expect(fonts.length).toBeGreaterThanOrEqual(2);
    for (const font of fonts) expect(font.has(PDFName.of('FontFile2')) || font.has(PDFName.of('FontFile3'))).toBe(true);
    expect(pdf.getTitle()).toBe('Production sheet of Wing');
  });

  test('of a design that is larger than its page has a page as large as that takes, at the end', async () => {
    const { pdf } = await pdfOf(300, 250);
    expect(pdf.getPageCount()).toBeLessThanOrEqual(3);
    const last = pdf.getPage(pdf.getPageCount() - 1);
    expect(last.getWidth() / POINT).toBeGreaterThan(300);
    expect(levelLines(contentOf(pdf, pdf.getPageCount() - 1)).some((mm) => Math.abs(mm - 300) < 0.02)).toBe(true);
  });

  test('says threads turn by turn and for the order, stops with their words, runs by heads, and what was kept', async () => {
    const { sheet } = await pdfOf(80, 60);
    expect(sheet.turns.map(({ turn, needle, name, stitches }) => [turn, needle, name, stitches])).toEqual([
      [1, 1, 'Cream', 3],
      [2, 2, 'Deep water', 2],
    ]);
    expect(sheet.threads[0]!.order).toBeCloseTo(25 * sheet.threads[0]!.onePiece, 9);
    expect(sheet.stops).toEqual([{ number: 1, at: expect.any(Number), after: 1, note: 'Lay the badge fabric' }]);
    expect(sheet.kept).toEqual([{ title: 'Two ends are not locked', reason: 'glued on', count: 2 }]);
    expect([sheet.runs, sheet.order]).toEqual([25, 25 * sheet.onePiece]);
    const { machine } = defaultTarget();
    const many = (await pdfOf(80, 60, { machine: { ...machine, heads: 6, needles: 1 } })).sheet;
    expect([many.runs, many.missingNeedles]).toEqual([5, 1]);
    expect(many.order).toBeCloseTo(5 * many.onePiece, 9);
    const facts = new Map(sheet.facts);
    expect(facts.get('Hoop')).toContain('middle of the design at 40.0, 30.0 mm');
    const placed = (await pdfOf(80, 60, { place: { x: -40, y: -30, turn: 90 }, hoop: HOOPS.at(-1)! })).sheet;
    expect(new Map(placed.facts).get('Turned')).toContain('90°');
    expect(sheet.cautions.join(' ')).toMatch(/hands, hair and sleeves.*eye protection.*estimates/s);
  });
});
