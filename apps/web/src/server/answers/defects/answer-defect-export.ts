import { AppError } from '@kindred-baton/contracts/errors';
import type { DefectListItem } from '@kindred-baton/contracts/defects/defect';
import type { SeverityNames } from '@kindred-baton/core/defects/defect';
import { nameSeverity } from '@kindred-baton/core/defects/defect';
import { printDefect } from '@kindred-baton/core/defects/print-defect';
import { writeCsv } from '@kindred-baton/formats/tables/write-tables';
import { getDefect, listDefects } from '@kindred-baton/store/defects/get-defects';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Call } from '../../call.ts';

const encode = (text: string) => new TextEncoder().encode(text);

/** Defects as a file: CSV or JSON of all, or one as plain text or JSON. */
export async function answerDefectExport({ ask, url, actor }: Call): Promise<Response> {
  const format = url.searchParams.get('format') ?? 'csv';
  const code = url.searchParams.get('defect');
  if (code !== null) return answerOne(await ask(getDefect, code), format, actor.severityNames);
  const { defects } = await ask(listDefects, undefined);
  if (format === 'json')
    return answerFile(encode(JSON.stringify({ defects }, null, 2)), { name: 'defects.json', mediaType: MEDIA_TYPES.json });
  if (format === 'csv') return answerFile(toCsv(defects, actor.severityNames), { name: 'defects.csv', mediaType: MEDIA_TYPES.csv });
  throw new AppError('invalid', `Defects are not written as ${format}; csv and json are.`);
}

function answerOne(defect: Awaited<ReturnType<typeof getDefect.read>>, format: string, names: SeverityNames): Response {
  if (format === 'json')
    return answerFile(encode(JSON.stringify(defect, null, 2)), { name: `${defect.code}.json`, mediaType: MEDIA_TYPES.json });
  if (format !== 'txt') throw new AppError('invalid', `A defect is not written as ${format}; txt and json are.`);
  const run = defect.run ? `${defect.cycle.name}, run ${defect.run.number}: ${defect.run.name}` : defect.cycle.name;
  const text = printDefect({
    ...defect,
    severity: nameSeverity(defect.severity, names),
    run,
    pictures: defect.evidence.map(({ name }) => name),
  });
  return answerFile(encode(text), { name: `${defect.code}.txt`, mediaType: 'text/plain; charset=utf-8' });
}

function toCsv(defects: readonly DefectListItem[], names: SeverityNames): Uint8Array {
  const headings = [
    'Code',
    'Title',
    'Status',
    'Kind',
    'Severity',
    'Priority',
    'Team',
    'Assignee',
    'Due',
    'Cycle',
    'Node',
    'Found by',
    'Found at',
    'Turns waiting',
  ];
  const rows = defects.map((defect) => [
    ...[
      defect.code,
      defect.title,
      defect.status,
      defect.kind,
      nameSeverity(defect.severity, names),
      defect.priority,
      defect.team ?? '',
      defect.assignee ?? '',
      defect.dueOn ?? '',
    ],
    ...[defect.cycle.code, defect.node ?? '', defect.foundBy, defect.foundAt, defect.waiting],
  ]);
  return writeCsv({ sheet: 'Defects', headings, rows });
}
