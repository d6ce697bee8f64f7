/**
 * All numbers by which strokes are weighed, each with its unit and reason: costs have no unit but each other, lengths are in mm, angles in degrees,
 * shares of 1. They were found by trial on one half of the test shapes; none is sharp, and the cheapest way to cut a stretch hangs on all of them together.
 */
export const EVIDENCE = {
  /** To begin an object costs as much as one clear break in what rows do. */
  begin: 2.5,
  /** No cost of one stroke or one step onward grows beyond this, so that one odd stroke never outweighs many good ones. */
  most: 4,
  run: {
    /** A stroke as a part of a run: a little, so that rows are not explained as runs. */
    own: 0.3,
    /** Runs go on; turns up to `bend` are usual, up to `corner` costly, back over the same way as costly, and any other turn back hardly a run's. */
    onward: 0.1,
    bend: 100,
    atCorner: 0.8,
    corner: 150,
    overItself: 0.8,
    back: 2,
  },
  other: {
    /** A stroke that nothing explains: more than a good explanation, less than a bad one. */
    own: 1.4,
  },
  row: {
    /** A row bows out by no more than this (mm) or this share of its length; by more it is an odd row, by more than the second share a line. */
    bow: 0.25,
    bowShare: 0.06,
    bent: 2,
    lineBowShare: 0.12,
    /** A stitch of its own that leads from row to row. */
    turn: 0.15,
    /** Rows lean against each other by so many degrees, and by more where they are short (degrees × mm over their length, which is at least `leastLength`). */
    lean: 15,
    leanOfShort: 13,
    leastLength: 0.4,
    /** Throws of an open zigzag lean up to `zigzag` against each other, but run with the one before the last within `same`; that costs no more than this. */
    zigzag: 85,
    same: 12,
    zigzagCost: 0.4,
    /** A row longer than this (mm) is seldom followed by one so many times shorter. */
    long: 4,
    unlike: 4,
    unlikeCost: 1.5,
    /** Rows share this much of the shorter one; less costs up to this. */
    shared: 0.3,
    apartCost: 2,
    /** Rows farther apart than the first are hardly, farther than the second seldom of one object: half the pitch of the openest underlay, and a little. */
    far: 2.4,
    farCost: 3,
    apart: 1.4,
    apartRowsCost: 1,
    /** Rows nearer than this go over each other; so do ends nearer than the second, of rows longer than the third. */
    over: 0.05,
    overEnds: 0.12,
    overLength: 0.8,
    overCost: 2.5,
    /** Two rows of one way lie along each other within this. */
    along: 25,
    /** A step back, against the headway so far. */
    backCost: 1.2,
  },
  turn: {
    /** It is no longer than this, nor than so many times the longer of its rows. */
    longest: 2.6,
    ofRow: 1.2,
    /** One shorter than this share of the rows that it joins is told by its length alone, and may run so nearly along them; any other leaves them by more. */
    short: 0.35,
    leastOfShort: 8,
    least: 30,
    /** The rows that it joins run against each other within this, and share so much. */
    against: 25,
    shared: 0.3,
  },
  pitch: {
    /** So many steps before and after are looked at for a change, so great (as a ratio) it has to be, and by so many times what the pitch varies. */
    window: 5,
    ratio: 1.7,
    sudden: 1.5,
    changeCost: 3.5,
    /** A step that fits so ill is a break by itself; a change of pitch so many rows from it is that of the same break, told late. */
    break: 2.5,
    breakReach: 3,
  },
} as const;
