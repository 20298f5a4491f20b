import { AppError } from '@kindred-baton/contracts/errors';
import type { StoredRequirement } from '@kindred-baton/core/imports/compare-requirements';
import { toRequirementTable } from '@kindred-baton/formats/requirements/requirement-files';
import { writeReqif } from '@kindred-baton/formats/requirements/write-reqif';
import { writeCsv, writeXlsx } from '@kindred-baton/formats/tables/write-tables';
import { listRequirements } from '@kindred-baton/store/requirements/list-requirements';
import type { Call } from '../../call.ts';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';

const WRITERS = {
  xlsx: (list: readonly StoredRequirement[]) => writeXlsx([toRequirementTable(list)]),
  csv: (list: readonly StoredRequirement[]) => writeCsv(toRequirementTable(list)),
  reqif: (list: readonly StoredRequirement[], title: string) =>
    new TextEncoder().encode(writeReqif(list, { title, at: new Date().toISOString().slice(0, 19) + 'Z' })),
} as const;

export async function answerRequirementExport({ ask, actor, url }: Call): Promise<Response> {
  const format = url.searchParams.get('format') ?? 'xlsx';
  if (!Object.hasOwn(WRITERS, format)) throw new AppError('invalid', `Requirements are not written as ${format}; XLSX, CSV and ReqIF are.`);
  const known = format as keyof typeof WRITERS;
  const { requirements } = await ask(listRequirements, {});
  const list = requirements.map((each) => ({
    ...each,
    nodes: each.nodes.map(({ code }) => code),
    tests: each.tests.map(({ code }) => code),
  }));
  const bytes = await WRITERS[known](list, `${actor.programmeKey} requirements`);
  return answerFile(bytes, { name: `${actor.programmeKey}-requirements.${format}`, mediaType: MEDIA_TYPES[known] });
}
