import { fail, type Result, succeed } from '../../model/result.ts';
import { quote } from '../fileProblem.ts';

export interface ShapeProblem {
  readonly found: string;
  readonly expected: string;
}

/** The outline of a basic shape as SVG path data; a shape without size gives an empty outline. Lengths are in units of the drawing. */
export function outlineOfShape(name: string, attributes: Readonly<Record<string, string>>): Result<string, ShapeProblem> {
  let problem: ShapeProblem | undefined;
  const outline = describe();
  return problem === undefined ? succeed(outline) : fail(problem);

  function describe(): string {
    switch (name) {
      case 'path':
        return attributes['d'] ?? '';
      case 'polyline':
      case 'polygon': {
        const words = (attributes['points'] ?? '').trim();
        if (words === '') return '';
        const values = words.split(/[\s,]+/);
        if (values.length % 2 === 1) problem ??= { found: 'an x without its y', expected: 'points as x,y pairs' };
        for (const v of values) if (!Number.isFinite(Number(v))) problem ??= { found: quote(v), expected: 'a number' };
        return `M${values.join(' ')}${name === 'polygon' ? 'Z' : ''}`;
      }
      case 'line':
        return `M${number('x1')} ${number('y1')}L${number('x2')} ${number('y2')}`;
      case 'rect': {
        const [x, y, w, h] = [number('x'), number('y'), number('width'), number('height')];
        return w > 0 && h > 0 ? `M${x} ${y}h${w}v${h}h${-w}z` : '';
      }
      case 'circle':
        return ellipse(number('r'), number('r'));
      default:
        return ellipse(number('rx'), number('ry'));
    }
  }

  function ellipse(rx: number, ry: number): string {
    if (!(rx > 0 && ry > 0)) return '';
    const [cx, cy] = [number('cx'), number('cy')];
    return `M${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}Z`;
  }

  function number(attribute: string): number {
    const text = (attributes[attribute] ?? '0').trim().replace(/px$/, '');
    const value = text === '' ? NaN : Number(text);
    if (!Number.isFinite(value)) problem ??= { found: `${quote(text)} as ${attribute}`, expected: 'a number in units of the drawing' };
    return value;
  }
}
