/** A color #rrggbb mixed toward black (share < 0) or white (share > 0), as #rrggbb. */
export function shade(color: string, share: number): string {
  const n = parseInt(color.slice(1), 16);
  const mix = (v: number): number => Math.round(share < 0 ? v * (1 + share) : v + (255 - v) * share);
  return `#${[n >> 16, (n >> 8) & 255, n & 255].map((v) => mix(v).toString(16).padStart(2, '0')).join('')}`;
}

/** Lightness of a color as the eye takes it, 0…1 (relative luminance of WCAG 2). */
export function luminance(color: string): number {
  const n = parseInt(color.slice(1), 16);
  const [r, g, b] = [n >> 16, (n >> 8) & 255, n & 255].map((v) => {
    const c = v / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** The color a share of the way from one to another, all as #rrggbb. */
export function between(from: string, to: string, share: number): string {
  const [a, b] = [from, to].map((c) => parseInt(c.slice(1), 16)) as [number, number];
  const channel = (bits: number): number => Math.round(((a >> bits) & 255) + share * (((b >> bits) & 255) - ((a >> bits) & 255)));
  return `#${[16, 8, 0].map((bits) => channel(bits).toString(16).padStart(2, '0')).join('')}`;
}
