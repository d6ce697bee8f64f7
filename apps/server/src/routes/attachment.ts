/** File names are kept up to this length; the end, which says the format, stays. */
const LONGEST_NAME = 120;

/** RFC 6266: a plain name for old clients, the whole one for the others. */
export function attachment(fileName: string): string {
  const short = shortenName(fileName);
  const plain = short.replace(/[^\w.-]/g, '_');
  return `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(short)}`;
}

/** A file name that is kept and shown. */
export function shortenName(name: string): string {
  return name.length <= LONGEST_NAME ? name : `${name.slice(0, LONGEST_NAME - 20)}…${name.slice(-19)}`.replaceAll(/\p{Surrogate}/gu, '_');
}
