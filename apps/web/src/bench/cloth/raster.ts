/** Pixels of a layer in memory, and the part of them that may be painted: red in the lowest byte, alpha in the highest, colors multiplied by it. */
export interface Raster {
  readonly pixels: Int32Array;
  readonly width: number;
  readonly height: number;
  readonly clip: PixelBox;
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
 * it is covered, which its distance from the axis tells as if the edge were straight. `step` is the stitch's own place in the palette. Each line
 * of pixels is cut into what lies well inside, which takes its color and no more, and what is left and right of that.
 */
export function layStitch(raster: Raster, paint: ThreadPaint, step: number, fromX: number, fromY: number, toX: number, toY: number): void {
  const { pixels, width, clip } = raster;
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
  const top = Math.max(clip.top, Math.ceil(ay - reach - 0.5));
  const bottom = Math.min(clip.bottom - 1, Math.floor(by + reach - 0.5));
  if (top > bottom || (ax < bx ? bx : ax) + reach < clip.left || (ax < bx ? ax : bx) - reach > clip.right) return;
  const length = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
  const ux = length > 0 ? (bx - ax) / length : 1;
  const uy = length > 0 ? (by - ay) / length : 0;
  // The side in the light is the positive one.
  const side = -uy * LIGHT_X + ux * LIGHT_Y < 0 ? -1 : 1;
  const nx = -uy * side;
  const ny = ux * side;
  const acrossStep = ACROSS / (2 * half);
  // Held a little under the last step, so that what is counted up in fixed point stays in range.
  const alongStep = length > 0 ? (ALONG - 0.1) / length : 0;
  const inner = half - 0.5;
  // Twist has one hand, whichever side the light is on.
  const plyStep = (side * TWIST) / look.ply;
  const acrossMove = Math.round(nx * acrossStep * ONE);
  const alongMove = Math.round(ux * alongStep * ONE);
  const plyMove = Math.round(ux * plyStep * ONE);
  const leftward = 0.5 - ax;
  for (let j = top; j <= bottom; j++) {
    const dy = j + 0.5 - ay;
    // Where the line of pixels meets the box around the capsule, |across| ≤ reach and −reach ≤ along ≤ length + reach, and the box inside it.
    let low = clip.left;
    let high = clip.right - 1;
    let innerLow = low;
    let innerHigh = inner > 0 ? high : low - 1;
    const s0 = ny * dy;
    const u0 = uy * dy;
    if (nx > 1e-9 || nx < -1e-9) {
      const middle = ax - s0 / nx - 0.5;
      const perPixel = nx < 0 ? -1 / nx : 1 / nx;
      low = Math.max(low, Math.ceil(middle - reach * perPixel));
      high = Math.min(high, Math.floor(middle + reach * perPixel));
      innerLow = Math.max(innerLow, Math.ceil(middle - inner * perPixel));
      innerHigh = Math.min(innerHigh, Math.floor(middle + inner * perPixel));
    } else if (s0 > inner || s0 < -inner) innerHigh = innerLow - 1;
    if (ux > 1e-9 || ux < -1e-9) {
      const start = ax - 0.5 - u0 / ux;
      const run = length / ux;
      const more = reach / ux;
      low = Math.max(low, Math.ceil(ux > 0 ? start - more : start + run + more));
      high = Math.min(high, Math.floor(ux > 0 ? start + run + more : start - more));
      innerLow = Math.max(innerLow, Math.ceil(ux > 0 ? start : start + run));
      innerHigh = Math.min(innerHigh, Math.floor(ux > 0 ? start + run : start));
    } else if (u0 < 0 || u0 > length) innerHigh = innerLow - 1;
    if (innerLow > innerHigh) innerLow = high + 1;
    const line = j * width;
    for (let i = low; i <= high; i++) {
      if (i === innerLow) {
        // Well inside: covered whole. Counted from the raster's edge, not the clip's, so that a part is painted as the whole is.
        let across = (((nx * leftward + s0) * acrossStep + ACROSS / 2) * ONE + Math.imul(i, acrossMove)) | 0;
        let along = ((ux * leftward + u0) * alongStep * ONE + ONE / 20 + Math.imul(i, alongMove)) | 0;
        const end = line + innerHigh;
        if (twist === undefined)
          for (let at = line + i; at <= end; at++, across += acrossMove, along += alongMove)
            pixels[at] = palette[step + profile[(across >> FRACTION) * ALONG + (along >> FRACTION)]!]!;
        else {
          let ply = ((ux * leftward + u0) * plyStep * ONE + Math.imul(i, plyMove)) | 0;
          for (let at = line + i; at <= end; at++, across += acrossMove, along += alongMove, ply += plyMove) {
            const a = across >> FRACTION;
            const turn = twist[((ply >> FRACTION) & (TWIST - 1)) * ACROSS + a]!;
            pixels[at] = palette[step + profile[a * ALONG + (along >> FRACTION)]! + turn]!;
          }
        }
        i = innerHigh;
        continue;
      }
      const dx = i + 0.5 - ax;
      const s = nx * dx + s0;
      const u = ux * dx + u0;
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
      pixels[line + i] = cover >= 1 ? color : mix(pixels[line + i]!, color, (cover * 256) | 0);
    }
  }
}

/** Thread of less than half this width (px) is painted pixel by pixel along its way: it has no inside, and no sides that could be told apart. */
const THIN = 0.9;

/** The same for thin thread, from its upper end: at each step along the axis that it runs more along, the two or three pixels across are covered. */
function layThin(
  { pixels, width, clip }: Raster,
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
      pixels[pixel] = cover >= 1 ? color : mix(pixels[pixel]!, color, (cover * 256) | 0);
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
