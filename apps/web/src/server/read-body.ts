import { AppError } from '@kindred-baton/contracts/errors';

/** Reads a request's body up to a bound; the adapter itself has none. */
async function readBytes(request: Request, maxBytes: number): Promise<Uint8Array<ArrayBuffer>> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  const reader = request.body?.getReader();
  for (let piece = await reader?.read(); piece && !piece.done; piece = await reader?.read()) {
    const bytes = piece.value as Uint8Array;
    size += bytes.byteLength;
    if (size > maxBytes) {
      await reader?.cancel();
      throw new AppError('too large', `At most ${formatMegabytes(maxBytes)} MB can be sent.`);
    }
    pieces.push(bytes);
  }
  const all = new Uint8Array(size);
  let at = 0;
  for (const piece of pieces) {
    all.set(piece, at);
    at += piece.byteLength;
  }
  return all;
}

const formatMegabytes = (bytes: number) => String(Math.round((bytes / 1_048_576) * 10) / 10);

export async function readJson(request: Request, maxBytes: number): Promise<unknown> {
  const bytes = await readBytes(request, maxBytes);
  if (bytes.byteLength === 0) return {};
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch (cause) {
    throw new AppError('invalid', 'The request is not JSON.', { cause });
  }
}

/** A form with files, read up to a bound. */
export async function readForm(request: Request, maxBytes: number): Promise<FormData> {
  const bytes = await readBytes(request, maxBytes);
  try {
    return await new Response(bytes, { headers: { 'content-type': request.headers.get('content-type') ?? '' } }).formData();
  } catch (cause) {
    throw new AppError('invalid', 'The request is not a form with a file.', { cause });
  }
}
