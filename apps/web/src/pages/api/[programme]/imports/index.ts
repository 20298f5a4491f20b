import { importPreviewSchema } from '@kindred-baton/contracts/imports/import';
import { answerImport } from '../../../../features/imports/answer-import.ts';
import { defineRawEndpoint } from '../../../../server/endpoint.ts';
import { readForm } from '../../../../server/read-body.ts';

const MAX_WORKBOOK_BYTES = 20 * 1024 * 1024;

/** A workbook is looked at; with the fingerprint of what was seen it is stored. */
export const POST = defineRawEndpoint(async (context) => {
  const form = await readForm(context.request, MAX_WORKBOOK_BYTES);
  return Response.json(importPreviewSchema.parse(await answerImport(context, form)), { headers: { 'cache-control': 'no-store' } });
});
