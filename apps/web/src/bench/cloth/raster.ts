/** Pixels of a layer in memory, and the part of them that may be painted: red in the lowest byte, alpha in the highest, colors multiplied by it. */
export interface Raster {
  readonly pixels: Int32Array;
  readonly width: number;
  readonly height: number;
  readonly clip: PixelBox;
  /** Whether what is painted goes under what is there, so that stitches are painted last first, or over it. */
  readonly isUnder: boolean;
}

/** Whole pixels: from `left`, `top` up to but without `right`, `bottom`. */
export interface PixelBox {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Steps of a profile across a thread and along a stitch. */
export const ACROSS = 32;
export const ALONG = 16;
/** Steps of a twist from one ply to the next. */
export const TWIST = 32;
/** The step of a palette that is the thread's own color; those below go to black, those above to white. */
export const OWN = 128;
/** Where the light comes from in the picture, x right and y down: from the upper left. */
export const LIGHT_X = Math.cos((125 * Math.PI) / 180);
export const LIGHT_Y = -Math.sin((125 * Math.PI) / 180);

/** What stitches of one thread are painted with. */
export interface ThreadPaint {
  /** 256 colors, the thread's own at `OWN`. */
  readonly palette: Int32Array;
  readonly look: ThreadLook;
}

/** How round thread of one thickness looks; the same for all colors. */
export interface ThreadLook {
  /** Half the thickness it is painted with, px. */
  readonly half: number;
  /** How far in the palette a pixel lies from the stitch's own step: ALONG steps from the upper end to the lower for each of ACROSS from the shade to the light. */
  readonly profile: Int8Array;
  /** The same by phase of the twist (TWIST steps) for each of ACROSS; none where thread is too thin to show it. */
  readonly twist: Int8Array | undefined;
  /** Pixels along the thread from one ply to the next. */
  readonly ply: number;
}

/** Steps of a profile are counted in fixed point with so many bits of fraction. */
const FRACTION = 16;
const ONE = 1 << FRACTION;

/**
 * Paints one stitch between two places (pixels, y down) as a round thread: a capsule. A pixel at its edge is mixed with what is there by how much of
 * it is covered, which its distance from the axis tells as if the edge were straight. `step` is the stitch's own place in the palette.
 *
 * Of each row of pixels the stitch takes one stretch. Those in the midst of it are covered whole and take their colors from the profile one after
 * another; only those towards its sides and ends are looked at one by one.
 */
export function layStitch(raster: Raster, paint: ThreadPaint, step: number, fromX: number, fromY: number, toX: number, toY: number): void {
  const { pixels, width, clip, isUnder } = raster;
  const { palette, look } = paint;
  const { half, profile, twist } = look;
  // Profiles begin at the upper end.
  const isDown = fromY <= toY;
  const ax = isDown ? fromX : toX;
  const ay = isDown ? fromY : toY;
  const bx = isDown ? toX : fromX;
  const by = isDown ? toY : fromY;
  if (half < THIN) {
    layThin(raster, paint, step, ax, ay, bx, by);
    return;
  }
  const reach = half + 0.5;
  if ((ax < bx ? bx : ax) + reach < clip.left || (ax < bx ? ax : bx) - reach > clip.right) return;
  if (by + reach < clip.top || ay - reach > clip.bottom) return;
  const length = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
  const ux = length > 0 ? (bx - ax) / length : 1;
  const uy = length > 0 ? (by - ay) / length : 0;
  // The side in the light is the positive one.
  const side = -uy * LIGHT_X + ux * LIGHT_Y < 0 ? -1 : 1;
  // How far apart along a row lie pixels that are one apart across the stitch, and along it; rows are never quite level or upright to it.
  const perAcross = 1 / (uy > LEVEL ? uy : LEVEL);
  const perAlong = 1 / (ux < 0 ? (ux < -LEVEL ? -ux : LEVEL) : ux > LEVEL ? ux : LEVEL);
  const inner = half - 0.5;
  const acrossStep = ACROSS / (2 * half);
  const acrossMove = Math.round(-side * uy * acrossStep * ONE);
  const alongStep = length > 0 ? ALONG / length : 0;
  const alongMove = Math.round(ux * alongStep * ONE);
  // Twist has one hand, whichever side the light is on.
  const plyStep = (side * TWIST) / look.ply;
  const first = Math.max(clip.top, Math.ceil(ay - reach - 0.5));
  const last = Math.min(clip.bottom - 1, Math.floor(by + reach - 0.5));
  for (let y = first; y <= last; y++) {
    const down = y + 0.5 - ay;
    // Where on this row, from the upper end, the axis of the stitch is crossed, and where the line across its upper end is.
    const axis = down * ux * perAcross;
    const start = ux < 0 ? down * uy * perAlong : -down * uy * perAlong;
    const alongFrom = ux < 0 ? start - (length + reach) * perAlong : start - reach * perAlong;
    const alongTo = ux < 0 ? start + reach * perAlong : start + (length + reach) * perAlong;
    const low = Math.max(clip.left, Math.ceil(ax - 0.5 + Math.max(axis - reach * perAcross, alongFrom)));
    const high = Math.min(clip.right - 1, Math.floor(ax - 0.5 + Math.min(axis + reach * perAcross, alongTo)));
    const wholeFrom = Math.ceil(ax - 0.5 + Math.max(axis - inner * perAcross, alongFrom + reach * perAlong));
    const wholeTo = Math.min(high, Math.floor(ax - 0.5 + Math.min(axis + inner * perAcross, alongTo - reach * perAlong)));
    const row = y * width;
    for (let x = low; x <= high; x++) {
      const right = x + 0.5 - ax;
      if (x >= wholeFrom && x <= wholeTo) {
        // Counted from the first of them, whichever the clip begins with.
        const from = wholeFrom + 0.5 - ax;
        let across = (((side * (down * ux - from * uy) * acrossStep + ACROSS / 2) * ONE) | 0) + Math.imul(x - wholeFrom, acrossMove);
        let along = (((from * ux + down * uy) * alongStep * ONE) | 0) + Math.imul(x - wholeFrom, alongMove);
        for (let at = row + x, end = row + wholeTo; at <= end; at++, across += acrossMove, along += alongMove) {
          const there = isUnder ? pixels[at]! : 0;
          if (there >>> 24 === 255) continue;
          let shade = step + profile[(across >> FRACTION) * ALONG + (along >> FRACTION)]!;
          if (twist !== undefined)
            shade += twist[((((at - row + 0.5 - ax) * ux + down * uy) * plyStep) & (TWIST - 1)) * ACROSS + (across >> FRACTION)]!;
          const color = palette[shade]!;
          pixels[at] = there === 0 ? color : putUnder(there, color, 256);
        }
        x = wholeTo;
        continue;
      }
      const at = row + x;
      const there = pixels[at]!;
      if (isUnder && there >>> 24 === 255) continue;
      const s = side * (down * ux - right * uy);
      const u = right * ux + down * uy;
      let distance = s < 0 ? -s : s;
      if (u < 0) distance = Math.sqrt(s * s + u * u);
      else if (u > length) distance = Math.sqrt(s * s + (u - length) * (u - length));
      const cover = reach - distance;
      if (cover <= 0) continue;
      let a = ((s < 0 ? half - distance : half + distance) * acrossStep) | 0;
      if (a < 0) a = 0;
      else if (a >= ACROSS) a = ACROSS - 1;
      const l = u <= 0 ? 0 : u >= length ? ALONG - 1 : (u * alongStep) | 0;
      const turn = twist === undefined ? 0 : twist[((u * plyStep) & (TWIST - 1)) * ACROSS + a]!;
      const color = palette[step + profile[a * ALONG + l]! + turn]!;
      const share = cover >= 1 ? 256 : (cover * 256) | 0;
      pixels[at] = isUnder ? putUnder(there, color, share) : mix(there, color, share);
    }
  }
}

/** Nothing runs nearer to level or upright than this, so that no row is cut at infinity. */
const LEVEL = 1e-7;

/** Thread of less than half this width (px) is painted pixel by pixel along its way: it has no inside, and no sides that could be told apart. */
const THIN = 0.9;

/** The same for thin thread, from its upper end: at each step along the axis that it runs more along, the two or three pixels across are covered. */
function layThin(
  { pixels, width, clip, isUnder }: Raster,
  { palette, look: { half, profile } }: ThreadPaint,
  step: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
): void {
  const [dx, dy] = [bx - ax, by - ay];
  const isSteep = dy > Math.abs(dx);
  const isBackward = !isSteep && dx < 0;
  // Along: m, from m0 up to m1; across: n.
  const m0 = isSteep ? ay : isBackward ? bx : ax;
  const m1 = isSteep ? by : isBackward ? ax : bx;
  const n0 = isSteep ? ax : isBackward ? by : ay;
  const run = m1 - m0;
  const slope = run > 0 ? (isSteep ? dx : isBackward ? -dy : dy) / run : 0;
  // A pixel aside of the line is so much of a pixel away from it.
  const lean = 1 / Math.sqrt(1 + slope * slope);
  const reach = half + 0.5;
  const spread = reach / lean;
  const [lowM, highM, lowN, highN] = isSteep
    ? [clip.top, clip.bottom - 1, clip.left, clip.right - 1]
    : [clip.left, clip.right - 1, clip.top, clip.bottom - 1];
  const [pitchM, pitchN] = isSteep ? [width, 1] : [1, width];
  const first = Math.max(lowM, Math.ceil(m0 - reach - 0.5));
  const last = Math.min(highM, Math.floor(m1 + reach - 0.5));
  const alongStep = run > 0 ? ALONG / run : 0;
  for (let m = first; m <= last; m++) {
    const at = m + 0.5;
    const beyond = at < m0 ? m0 - at : at > m1 ? at - m1 : 0;
    const inside = at < m0 ? 0 : at > m1 ? run : at - m0;
    const middle = n0 + slope * inside - 0.5;
    const share = (inside * alongStep) | 0;
    const along = share >= ALONG ? ALONG - 1 : share;
    const color = palette[step + profile[(ACROSS >> 1) * ALONG + (isBackward ? ALONG - 1 - along : along)]!]!;
    const from = Math.max(lowN, Math.ceil(middle - spread));
    const to = Math.min(highN, Math.floor(middle + spread));
    for (let n = from; n <= to; n++) {
      const off = n < middle ? middle - n : n - middle;
      const cover = reach - (beyond > 0 ? Math.sqrt(beyond * beyond + off * off) : off * lean);
      if (cover <= 0) continue;
      const pixel = m * pitchM + n * pitchN;
      const there = pixels[pixel]!;
      if (isUnder && there >>> 24 === 255) continue;
      const part = cover >= 1 ? 256 : (cover * 256) | 0;
      pixels[pixel] = isUnder ? putUnder(there, color, part) : mix(there, color, part);
    }
  }
}

/** `share` of 256 parts of one color over another one: all four channels, multiplied by their alpha. */
function mix(from: number, to: number, share: number): number {
  const redBlue = from & 0xff00ff;
  const alphaGreen = (from >>> 8) & 0xff00ff;
  return (
    ((redBlue + (Math.imul((to & 0xff00ff) - redBlue, share) >> 8)) & 0xff00ff) |
    (((alphaGreen + (Math.imul(((to >>> 8) & 0xff00ff) - alphaGreen, share) >> 8)) & 0xff00ff) << 8)
  );
}

/** What is covered as much as this (of 255) is taken for covered whole. */
const WHOLE = 252;

/** A color with `share` of 256 parts of a color under it, as far as it lets that through: all four channels, multiplied by their alpha. */
function putUnder(there: number, color: number, share: number): number {
  const alpha = there >>> 24;
  const part = (share * (256 - alpha - (alpha >> 7))) >> 8;
  const redBlue = ((there & 0xff00ff) + ((Math.imul(color & 0xff00ff, part) >>> 8) & 0xff00ff)) & 0xff00ff;
  const alphaGreen = (((there >>> 8) & 0xff00ff) + ((Math.imul((color >>> 8) & 0xff00ff, part) >>> 8) & 0xff00ff)) & 0xff00ff;
  return redBlue | (alphaGreen << 8) | (alphaGreen >>> 16 >= WHOLE ? 0xff000000 : 0);
}
