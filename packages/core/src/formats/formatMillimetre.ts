/**
 * A length in mm as files hold it: the shortest decimal that reads back as the same number, without exponent and without −0. Generated
 * places have three decimals at most; others keep what they came with.
 */
export function formatMillimetre(value: number): string {
  if (value === 0) return '0';
  const text = String(value);
  return text.includes('e') ? value.toFixed(20).replace(/\.?0+$/, '') : text;
}
