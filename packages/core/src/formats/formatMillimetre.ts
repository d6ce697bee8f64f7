/**
 * A length in mm as files hold it: the shortest decimal that reads back as the same number, without exponent and without −0. Generated
 * places have three decimals at most; others keep what they came with. Takes what is under 10²¹.
 */
export function formatMillimetre(value: number): string {
  if (value === 0) return '0';
  const text = String(value);
  const match = /^(-?)(\d)(?:\.(\d+))?e-(\d+)$/.exec(text);
  if (match === null) return text;
  const [, sign, first, rest = '', exponent] = match;
  return `${sign}0.${'0'.repeat(Number(exponent) - 1)}${first}${rest}`;
}
