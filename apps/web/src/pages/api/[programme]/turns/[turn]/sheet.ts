import { AppError } from '@kindred-baton/contracts/errors';
import { idSchema } from '@kindred-baton/contracts/common';
import { finishedSchema } from '@kindred-baton/contracts/turns/turn';
import { readTurnSheet } from '@kindred-baton/formats/turns/turn-sheet';
import { keepSheet } from '@kindred-baton/store/turns/keep-sheet';
import { answerTurnFile } from '../../../../../server/answers/turns/answer-turn-files.ts';
import { defineRawEndpoint } from '../../../../../server/endpoint.ts';
import { defineImportEndpoint } from '../../../../../server/import-endpoint.ts';

export const GET = defineRawEndpoint(answerTurnFile);

/** A filled-in sheet comes back. */
export const POST = defineImportEndpoint(finishedSchema, async ({ perform, param }, file) => {
  const sheet = await readTurnSheet(file);
  if (!sheet.ok) throw new AppError('invalid', `${sheet.message} Nothing was kept.`);
  return perform(keepSheet, { turnId: idSchema<'turn'>().parse(param('turn')), mark: sheet.mark, lines: sheet.lines });
});
