import type { importRoutes } from '@kindred-baton/contracts/imports/routes';
import { writeTemplate } from '@kindred-baton/formats/import/write-template';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import { doAside } from '../../aside/do-aside.ts';
import type { Answers, Call } from '../../call.ts';
import { readUpload } from '../../read-upload.ts';
import { answerDataRows } from '../tests/answer-data-rows.ts';
import type { IMPORTS } from './imports.ts';

type ImportName = keyof typeof IMPORTS;

/** The whole of an import is done in a thread: nobody else waits while it is read, compared or stored. */
async function importAside<Name extends ImportName>(
  { actor, request }: Call,
  route: Name,
): Promise<Awaited<ReturnType<(typeof IMPORTS)[Name]>>> {
  return (await doAside('import', { actor, route }, await readUpload(request))) as never;
}

export const importAnswers: Answers<typeof importRoutes> = {
  importWorkbook: (call) => importAside(call, 'importWorkbook'),
  getWorkbookTemplate: async () => answerFile(await writeTemplate(), { name: 'kindred-baton-import.xlsx', mediaType: MEDIA_TYPES.xlsx }),
  importMap: (call) => importAside(call, 'importMap'),
  importRequirements: (call) => importAside(call, 'importRequirements'),
  readDataRows: async (call) => answerDataRows(call, await readUpload(call.request)),
  importTests: (call) => importAside(call, 'importTests'),
  importScenarios: (call) => importAside(call, 'importScenarios'),
};
