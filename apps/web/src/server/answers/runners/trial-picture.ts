import { AppError } from '@kindred-baton/contracts/errors';

/** How every JPEG begins (ISO/IEC 10918-1: start of image, then a marker). */
const JPEG = Buffer.from([0xff, 0xd8, 0xff]);

export function readJpeg(base64: string): Buffer {
  const bytes = Buffer.from(base64, 'base64');
  if (!bytes.subarray(0, JPEG.length).equals(JPEG)) throw new AppError('invalid', 'The picture of a trial is a JPEG.');
  return bytes;
}

export const answerPicture = (bytes: Buffer): Response =>
  new Response(new Uint8Array(bytes), {
    headers: {
      ...{ 'content-type': 'image/jpeg', 'content-security-policy': "sandbox; default-src 'none'" },
      'cache-control': 'private, no-cache',
    },
  });
