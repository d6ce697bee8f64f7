import { imageSize } from 'image-size';
import { DoesNotFit } from '../errors.ts';

/** A picture as browsers show it. Pixels as it is shown, turned as its camera noted. */
export interface ImageInfo {
  readonly mime: string;
  readonly width: number;
  readonly height: number;
}

/** What browsers show that cameras make, by the bytes that it begins with. */
const KINDS: readonly {
  readonly type: string;
  readonly mime: string;
  readonly magic: readonly (readonly [at: number, bytes: string])[];
}[] = [
  { type: 'jpg', mime: 'image/jpeg', magic: [[0, '\xff\xd8\xff']] },
  { type: 'png', mime: 'image/png', magic: [[0, '\x89PNG\r\n\x1a\n']] },
  {
    type: 'webp',
    mime: 'image/webp',
    magic: [
      [0, 'RIFF'],
      [8, 'WEBP'],
    ],
  },
];

/** More pixels than this a browser does not lay over a design in time. */
const MOST_PIXELS = 60_000_000;
/** EXIF orientations from here on lie on their side. */
const ON_ITS_SIDE = 5;

/** What a file is as a picture. @throws DoesNotFit where it is none, or a larger one than can be shown */
export function readPicture(bytes: Buffer, name: string): ImageInfo {
  const kind = KINDS.find(({ magic }) => magic.every(([at, text]) => bytes.subarray(at, at + text.length).toString('latin1') === text));
  if (kind === undefined) throw new DoesNotFit(`${name} is no picture that a browser shows. Send a photo as JPEG, PNG or WebP.`);
  let size: ReturnType<typeof imageSize>;
  try {
    size = imageSize(bytes);
  } catch {
    throw new DoesNotFit(`${name} begins like a picture and is none: it may be cut short. Send it again.`);
  }
  const { width, height, orientation = 1 } = size;
  if (size.type !== kind.type || !(width > 0) || !(height > 0))
    throw new DoesNotFit(`${name} begins like a picture and is none: it may be cut short. Send it again.`);
  if (width * height > MOST_PIXELS)
    throw new DoesNotFit(
      `${name} has ${Math.round((width * height) / 1e6)} million pixels: send it smaller, up to ${MOST_PIXELS / 1e6} million.`,
    );
  return { mime: kind.mime, ...(orientation >= ON_ITS_SIDE ? { width: height, height: width } : { width, height }) };
}
