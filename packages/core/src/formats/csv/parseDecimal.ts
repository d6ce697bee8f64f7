const NUMBER = /^\s*[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?\s*$/;
/** With this many digits at most, digits and power of ten are exact, and so their quotient is the nearest number there is. */
const EXACT_DIGITS = 15;
const POWERS = [1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15];

/**
 * The number that the characters `from` ≤ k < `to` of a text say as a decimal, the same to the last bit as `Number` gives; NaN for what is
 * no decimal number, blanks and hexadecimal included. Plain decimals, which a stitch file is full of, are read where they stand.
 */
export function parseDecimal(text: string, from = 0, to = text.length): number {
  let at = from;
  let isNegative = false;
  if (from < to && text.charCodeAt(from) === 45) {
    isNegative = true;
    at++;
  }
  let digits = 0;
  let value = 0;
  let decimals = -1;
  for (; at < to; at++) {
    const code = text.charCodeAt(at);
    if (code >= 48 && code <= 57) {
      value = value * 10 + (code - 48);
      digits++;
      if (decimals >= 0) decimals++;
    } else if (code === 46 && decimals < 0) decimals = 0;
    else break;
  }
  if (at < to || digits === 0 || digits > EXACT_DIGITS) {
    const field = text.slice(from, to);
    return NUMBER.test(field) ? Number(field) : NaN;
  }
  const magnitude = decimals > 0 ? value / POWERS[decimals]! : value;
  return isNegative ? -magnitude : magnitude;
}
