/** Changes bytes by chance: turned, cut, doubled and spliced, one to six times. */
export function mutator(random: () => number): (bytes: Buffer) => Buffer {
  return (bytes) => {
    let changed = Buffer.from(bytes);
    for (let n = 1 + Math.floor(random() * 6); n > 0; n--) {
      const at = Math.floor(random() * changed.length);
      const length = Math.floor(random() * 40);
      const kind = random();
      if (kind < 0.35) changed[at] = Math.floor(random() * 256);
      else if (kind < 0.55) changed = Buffer.concat([changed.subarray(0, at), changed.subarray(at + length)]);
      else if (kind < 0.75) changed = Buffer.concat([changed.subarray(0, at), changed.subarray(at, at + length), changed.subarray(at)]);
      else if (kind < 0.9) {
        const splice = SPLICES[Math.floor(random() * SPLICES.length)]!;
        changed = Buffer.concat([changed.subarray(0, at), Buffer.from(splice), changed.subarray(at)]);
      } else changed = changed.subarray(0, at);
    }
    return changed;
  };
}

const SPLICES = [
  '9'.repeat(5000),
  '-1e309',
  '1e300,',
  'NaN',
  '\0',
  '"',
  '<',
  '&#0;',
  'M1e9 1e9',
  '\\ud800',
  '<g>'.repeat(300),
  ','.repeat(99),
  '\n\n',
  '{"a":',
  '[[[[',
];
