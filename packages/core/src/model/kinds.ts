/** What the stitches of an object are. */
export const STITCH_KINDS = ['run', 'satin', 'fill', 'other'] as const;
export type StitchKind = (typeof STITCH_KINDS)[number];

/** What an object is there for. Only covers are meant to be seen. */
export const STITCH_ROLES = ['cover', 'underlay', 'travel', 'tie', 'placement', 'tackdown'] as const;
export type StitchRole = (typeof STITCH_ROLES)[number];

/** Layers of underlay. */
export const UNDERLAY_KINDS = ['center-run', 'edge-run', 'zigzag', 'tatami'] as const;
export type UnderlayKind = (typeof UNDERLAY_KINDS)[number];

/** What a line does that is more than a line. */
export const LINE_PATTERNS = ['edge-stitch', 'contour', 'meander', 'registration-mark'] as const;
export type LinePattern = (typeof LINE_PATTERNS)[number];

/** How an object can be sewn. */
export const SPEC_KINDS = ['run', 'satin', 'fill', 'contour', 'meander', 'edge-stitch'] as const;
export type SpecKind = (typeof SPEC_KINDS)[number];

/** How a thread end is locked. */
export const TIES = ['to-and-fro', 'triangle', 'none'] as const;
export type Tie = (typeof TIES)[number];

/** How the rows of a fill are joined at their ends. */
export const ROW_ENDS = ['square', 'slanted'] as const;
export type RowEnds = (typeof ROW_ENDS)[number];
