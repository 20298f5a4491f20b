import { AppError } from '@kindred-baton/contracts/errors';
import type { ExportedScenario } from '@kindred-baton/core/scenarios/scenario-file';
import { writeScenarioBpmn } from '@kindred-baton/formats/bpmn/write-scenario-bpmn';
import type { DocumentHead } from '@kindred-baton/formats/documents/write-page';
import { toScenarioTables } from '@kindred-baton/formats/scenarios/scenario-tables';
import { writeScenarioFeature } from '@kindred-baton/formats/scenarios/write-scenario-feature';
import { writeScenarioBook, writeRoomSheet, writeSpecialistSheet } from '@kindred-baton/formats/scenarios/write-sheets';
import { writeXlsx } from '@kindred-baton/formats/tables/write-tables';
import { loadScenarioToExport } from '@kindred-baton/store/scenarios/load-exported';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Call } from '../../call.ts';
import { printPdf } from '../../documents/print-pdf.ts';
import { toHead } from '../../documents/to-head.ts';

const encode = (text: string) => new TextEncoder().encode(text);

interface Writer {
  readonly extension: keyof typeof MEDIA_TYPES;
  readonly write: (scenario: ExportedScenario, head: DocumentHead) => Promise<Uint8Array> | Uint8Array;
}

/** A scenario in each format. Adding one: a line here and one in scenario-tabs.tsx. */
const WRITERS: Readonly<Record<string, Writer>> = {
  book: { extension: 'pdf', write: (scenario, head) => printPdf(writeScenarioBook(scenario, head)) },
  room: { extension: 'pdf', write: (scenario, head) => printPdf(writeRoomSheet(scenario, head)) },
  specialist: { extension: 'pdf', write: (scenario, head) => printPdf(writeSpecialistSheet(scenario, head)) },
  xlsx: { extension: 'xlsx', write: (scenario) => writeXlsx(toScenarioTables(scenario)) },
  bpmn: { extension: 'bpmn', write: (scenario) => encode(writeScenarioBpmn(scenario)) },
  feature: { extension: 'feature', write: (scenario) => encode(writeScenarioFeature(scenario)) },
};

/** A scenario as a file, to take away or to print. */
export async function answerScenarioExport({ ask, actor, url, params }: Call<{ readonly code: string }>): Promise<Response> {
  const format = url.searchParams.get('format') ?? 'xlsx';
  const writer = Object.hasOwn(WRITERS, format) ? WRITERS[format] : undefined;
  if (!writer) throw new AppError('invalid', `A scenario is not written as ${format}; ${Object.keys(WRITERS).join(', ')} are.`);
  const scenario = await ask(loadScenarioToExport, params.code);
  const bytes = await writer.write(scenario, toHead({ actor, url }, scenario.file.name));
  const tail = writer.extension === 'pdf' ? `-${format}` : '';
  return answerFile(bytes, { name: `${scenario.file.code}${tail}.${writer.extension}`, mediaType: MEDIA_TYPES[writer.extension] });
}
