import { AppError } from '@kindred-baton/contracts/errors';
import { idSchema } from '@kindred-baton/contracts/common';
import type { NewEvidence } from '@kindred-baton/store/evidence/keep-evidence';
import { fileTypeFromBuffer } from 'file-type';
import { z } from 'zod';

const MAX_EVIDENCE_BYTES = 10 * 1024 * 1024;

/** What may be kept as evidence; told by the content, whatever the name says. */
const ALLOWED = new Map([
  ['image/png', 'PNG'],
  ['image/jpeg', 'JPEG'],
  ['image/webp', 'WebP'],
  ['image/gif', 'GIF'],
  ['application/pdf', 'PDF'],
]);

/** Reads a picture or file from a form; a sentence says what is wrong with any other. */
export async function readEvidence(form: FormData): Promise<Omit<NewEvidence, 'attemptId'>> {
  const file = form.get('file');
  if (!(file instanceof File) || file.size === 0) throw new AppError('invalid', 'There is no file in the request.');
  if (file.size > MAX_EVIDENCE_BYTES) throw new AppError('too large', `${file.name} has more than 10 MB.`);
  const content = Buffer.from(await file.arrayBuffer());
  const type = await fileTypeFromBuffer(content);
  if (!type || !ALLOWED.has(type.mime)) {
    throw new AppError('unsupported', `${file.name} is not a kind that is kept. Kept are ${[...ALLOWED.values()].join(', ')}.`);
  }
  return {
    id: idSchema<'evidence'>().parse(form.get('id')),
    stepIndex: z.coerce.number().int().min(0).parse(form.get('stepIndex')),
    name: file.name.slice(0, 200) || 'picture',
    mediaType: type.mime,
    content,
  };
}
