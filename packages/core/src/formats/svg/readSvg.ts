import { SaxesParser } from 'saxes';
import { fail, type Result } from '../../model/result.ts';
import { type FileProblem, problemAt, quote, type ReadProgram } from '../fileProblem.ts';
import type { ElementReader } from './ElementReader.ts';
import { LineWorkReader } from './LineWorkReader.ts';
import { StitchDrawingReader } from './StitchDrawingReader.ts';

/**
 * Reads an SVG: exactly, where its root carries `data-isola="stitches"`, else as line work. Scripts, references and entities are not
 * followed: the parser knows none but XML's own five, and refuses others.
 */
export function readSvg(text: string): Result<ReadProgram, FileProblem> {
  const parser = new SaxesParser();
  let reader: ElementReader | undefined;
  let problem: FileProblem | undefined;
  let depth = 0;

  parser.on('error', (error) => {
    problem ??= problemAt({ line: parser.line }, error.message.replace(/^\d+:\d+: /, '').replace(/\.$/, ''), 'well-formed XML');
  });
  parser.on('opentag', (tag) => {
    if (problem !== undefined) return;
    depth++;
    const name = localName(tag.name);
    if (depth === 1) {
      if (name !== 'svg') {
        problem = problemAt({ line: parser.line }, `<${quote(tag.name)}>`, 'an <svg> element');
        return;
      }
      reader = tag.attributes['data-isola'] === 'stitches' ? new StitchDrawingReader() : new LineWorkReader(tag);
    }
    problem = reader!.open({ ...tag, name }, parser.line);
  });
  parser.on('closetag', (tag) => {
    depth--;
    if (problem === undefined) reader!.close(localName(tag.name));
  });

  // In pieces, so that a problem near the start of a long file ends the reading there.
  const piece = 1 << 16;
  for (let at = 0; at < text.length && problem === undefined; at += piece) parser.write(text.slice(at, at + piece));
  if (problem === undefined) parser.close();
  if (problem !== undefined) return fail(problem);
  if (reader === undefined) return fail(problemAt({ line: 1 }, 'no element', 'an <svg> element'));
  return reader.finish();
}

function localName(name: string): string {
  return name.slice(name.indexOf(':') + 1);
}
