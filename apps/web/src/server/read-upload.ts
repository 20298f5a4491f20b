import { AppError } from '@kindred-baton/contracts/errors';
import { readForm } from './read-body.ts';

const MAX_FILE_BYTES = 50 * 1024 * 1024;

export interface Upload {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** The form’s `options`, as JSON; what else the reader has to be told. */
  readonly options: unknown;
  /** A second file that belongs to the first. */
  readonly more?: { readonly name: string; readonly bytes: Uint8Array } | undefined;
}

/** A form with a file and options. */
export async function readUpload(request: Request): Promise<Upload> {
  const form = await readForm(request, MAX_FILE_BYTES);
  const file = form.get('file');
  if (!(file instanceof File)) throw new AppError('invalid', 'There is no file in the request.');
  const options = parseOptions(form.get('options'));
  const second = form.get('more');
  const more = second instanceof File ? await readFile(second) : undefined;
  return { ...(await readFile(file)), options, more };
}

async function readFile(file: File) {
  return { name: file.name, bytes: new Uint8Array(await file.arrayBuffer()) };
}

function parseOptions(text: unknown): unknown {
  if (typeof text !== 'string' || text === '') return {};
  try {
    return JSON.parse(text);
  } catch (cause) {
    throw new AppError('invalid', 'The options of the import are not JSON.', { cause });
  }
}
