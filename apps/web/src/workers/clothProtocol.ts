import type { ClothLook, Extents, Program, StitchRole } from '@isola/core';
import type { ShownCover } from './viewProtocol.ts';
import type { ClothViewKind } from '../bench/cloth/views/views.ts';
import type { Size, Viewport } from '../bench/cloth/viewport.ts';

/** What of the sewing is shown: all of it, what is there for one purpose, or some objects by their indices. */
export type ShownPart = 'all' | 'cover' | 'underlay' | 'travel' | readonly number[];

/** Which object each row belongs to (−1 none), what each object is there for, and how many covers lie under it. */
export interface ClothObjects {
  readonly ownerOfRow: Int32Array;
  readonly roles: readonly StitchRole[];
  readonly levels: Int32Array;
}

/** Cloth that lies on the cloth where a picture is of: its edge (xyxy, mm, closed). */
export interface ShownPiece {
  readonly edge: readonly number[];
  readonly look: ClothLook;
  readonly color: string;
}

/** What a picture of the cloth is to show. */
export interface PictureRequest {
  readonly program: number;
  readonly view: Viewport;
  readonly size: Size;
  /** Device pixels to a CSS pixel. */
  readonly ratio: number;
  readonly kind: ClothViewKind;
  readonly part: ShownPart;
  /** Rows before this one are sewn; all of them where there are no more. */
  readonly upTo: number;
  readonly look: ClothLook;
  readonly clothColor: string;
  /** Pieces that are laid by then, the lowest first. */
  readonly pieces: readonly ShownPiece[];
  /** Thickness of the thread, mm. */
  readonly thickness: number;
  /** The cloth's cover limit, K. */
  readonly maxCover: number;
}

/** A picture, or the part of one that is different from the picture given before on the same channel. The image is the receiver's own. */
export interface Picture {
  /** Whole pictures come as bitmaps; of a part the pixels are there sooner. */
  readonly image: ImageBitmap | ImageData;
  /** Where its upper left corner lies in the whole picture, px. */
  readonly left: number;
  readonly top: number;
  readonly isPart: boolean;
}

/** How a program differs from another one. */
export interface ProgramChange {
  readonly from: number;
  /** Where stitches come, go or move: minX, minY, maxX, maxY, mm. */
  readonly box: readonly [number, number, number, number];
  /** So many of its last rows are those of the other one, in the same threads. */
  readonly kept: number;
}

/** What the drawing worker does. Programs and cover maps are handed over once and then known by number. */
export interface ClothApi {
  /** `change` says where it differs from another program that is known, so that pictures of one become pictures of the other there. */
  setProgram(number: number, program: Program, change?: ProgramChange): Promise<void>;
  /** The same from a file as it is stored; gives where its penetrations lie. Rejects when it does not read. */
  readProgram(number: number, file: Uint8Array): Promise<Extents>;
  setCover(number: number, map: ShownCover): Promise<void>;
  /** Objects are known later than their program, and may be known better later still. */
  setObjects(number: number, objects: ClothObjects): Promise<void>;
  /** Where a program's penetrations will lie once the cloth has given way. */
  setSewn(number: number, x: Float64Array, y: Float64Array): Promise<void>;
  /** Forgets a program, also one that is still on its way. */
  dropProgram(number: number): Promise<void>;
  /**
   * The picture of the newest request of a `channel`; a request that was overtaken gives none. Parts are given to those who say that they hold the
   * picture before. A program that is not known yet is waited for where it is said to be coming, until it is there or dropped.
   */
  paint(
    channel: string,
    request: PictureRequest,
    held: { readonly holdsLast: boolean; readonly isComing: boolean },
  ): Promise<Picture | undefined>;
}

/** What of the drawing worker another worker talks to, so that stitches do not go by way of the page. */
export type ClothProgramsApi = Pick<ClothApi, 'setProgram'>;

/** The drawing worker as the page sees it. */
export interface ClothWorkerApi extends ClothApi {
  /** Takes programs through a port, too. */
  serve(port: MessagePort): Promise<void>;
}
