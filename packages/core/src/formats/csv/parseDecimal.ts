const NUMBER = /^\s*[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?\s*$/;
/** With this many digits at most, digits and power of ten are exact, and so their quotient is the nearest number there is. */
const EXACT_DIGITS = 15;
const POWERS = [1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15];

/**
 * The number that a decimal says, the same to the last bit as `Number` gives; NaN for what is no decimal number, blanks and hexadecimal
 * included. Plain decimals, which a stitch file is full of, go without a regular expression.
 */
export function parseDecimal(text: string): number {
  const length = text.length;
  let at = 0;
  let isNegative = false;
  if (length > 0 && text.charCodeAt(0) === 45) {
    isNegative = true;
    at = 1;
  }
  let digits = 0;
  let value = 0;
  let decimals = -1;
  for (; at < length; at++) {
    const code = text.charCodeAt(at);
    if (code >= 48 && code <= 57) {
      value = value * 10 + (code - 48);
      digits++;
      if (decimals >= 0) decimals++;
    } else if (code === 46 && decimals < 0) decimals = 0;
    else break;
  }
  if (at < length || digits === 0 || digits > EXACT_DIGITS) return NUMBER.test(text) ? Number(text) : NaN;
  const magnitude = decimals > 0 ? value / POWERS[decimals]! : value;
  return isNegative ? -magnitude : magnitude;
}
