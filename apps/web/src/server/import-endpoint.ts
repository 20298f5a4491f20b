import { createHash } from 'node:crypto';
import { AppError } from '@kindred-baton/contracts/errors';
import type { APIRoute } from 'astro';
import type { z } from 'zod';
import type { EndpointContext } from './endpoint.ts';
import { defineRawEndpoint } from './endpoint.ts';
import { readForm } from './read-body.ts';

const MAX_FILE_BYTES = 50 * 1024 * 1024;

export interface ImportRequest {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** The form’s `options`, as JSON; what else the reader has to be told. */
  readonly options: unknown;
  /** A second file that belongs to the first. */
  readonly more?: { readonly name: string; readonly bytes: Uint8Array } | undefined;
}

/** An import: a form with a file and options comes in; a preview, or what was stored, goes out. */
export function defineImportEndpoint<Answer>(
  output: z.ZodType<Answer>,
  answer: (context: EndpointContext<undefined>, request: ImportRequest) => Promise<Answer>,
): APIRoute {
  return defineRawEndpoint(async (context) => {
    const form = await readForm(context.request, MAX_FILE_BYTES);
    const file = form.get('file');
    if (!(file instanceof File)) throw new AppError('invalid', 'There is no file in the request.');
    const options = parseOptions(form.get('options'));
    const second = form.get('more');
    const more = second instanceof File ? await readFile(second) : undefined;
    const answered = await answer(context, { ...(await readFile(file)), options, more });
    return Response.json(output.parse(answered), { headers: { 'cache-control': 'no-store' } });
  });
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

/** Names what was seen: when it comes out otherwise the next time, the person has not seen it. */
export function toFingerprint(seen: unknown): string {
  return createHash('sha256').update(JSON.stringify(seen)).digest('hex');
}
