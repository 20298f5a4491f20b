/** A picture of the screen as it goes over the wire: how long what is said of it is (4 bytes, big-endian), that as JSON in UTF-8, then the picture as JPEG. */
export interface FrameAbout {
  readonly attempt: string;
  /** Of the page that is shown, in CSS pixels, and how far it is scrolled. */
  readonly width: number;
  readonly height: number;
  readonly scrollX: number;
  readonly scrollY: number;
}

/** The server asks each line so often whether the other side is still there. */
export const PING_MS = 15_000;

const HEAD = 4;
const MOST_ABOUT = 2_000;

export function packFrame(about: FrameAbout, jpeg: Uint8Array): Uint8Array {
  const said = new TextEncoder().encode(JSON.stringify(about));
  const packed = new Uint8Array(HEAD + said.length + jpeg.length);
  new DataView(packed.buffer).setUint32(0, said.length);
  packed.set(said, HEAD);
  packed.set(jpeg, HEAD + said.length);
  return packed;
}

/** What is said of a frame, and its picture; undefined where it is none. */
export function readFrame(packed: Uint8Array): { readonly about: FrameAbout; readonly jpeg: Uint8Array } | undefined {
  if (packed.length < HEAD) return undefined;
  const length = new DataView(packed.buffer, packed.byteOffset).getUint32(0);
  if (length > MOST_ABOUT || HEAD + length > packed.length) return undefined;
  try {
    const about: unknown = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(packed.subarray(HEAD, HEAD + length)));
    return isAbout(about) ? { about, jpeg: packed.subarray(HEAD + length) } : undefined;
  } catch {
    return undefined;
  }
}

const NUMBERS = ['width', 'height', 'scrollX', 'scrollY'] as const;

function isAbout(about: unknown): about is FrameAbout {
  if (typeof about !== 'object' || about === null) return false;
  const said = about as Record<string, unknown>;
  return typeof said['attempt'] === 'string' && NUMBERS.every((name) => Number.isFinite(said[name]));
}
