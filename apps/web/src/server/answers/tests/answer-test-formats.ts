import { randomUUID } from 'node:crypto';
import { AppError } from '@kindred-baton/contracts/errors';
import type { TestFormat } from '@kindred-baton/contracts/jobs/job';
import type { DocumentHead } from '@kindred-baton/formats/documents/write-page';
import { writeDocument } from '@kindred-baton/formats/tests/write-document';
import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { writeFeature } from '@kindred-baton/formats/tests/write-feature';
import { writeMarkdown } from '@kindred-baton/formats/tests/write-markdown';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import { writeRecording } from '@kindred-baton/formats/tests/write-recording';
import { writeScript } from '@kindred-baton/formats/tests/write-script';
import { toStepTable, toTestTables } from '@kindred-baton/formats/tests/write-test-tables';
import { writeCsv, writeXlsx } from '@kindred-baton/formats/tables/write-tables';
import { printPdf } from '../../documents/print-pdf.ts';
import { readFont } from '../../documents/read-font.ts';

type Writer = (tests: readonly ExportedTest[], head: Omit<DocumentHead, 'font'>) => Promise<Uint8Array> | Uint8Array;

const encode = (text: string) => new TextEncoder().encode(text);

/** Tests in each format. Adding one: its name in contracts/jobs/job.ts, a line here. */
export const TEST_WRITERS: Readonly<Record<TestFormat, Writer>> = {
  xlsx: (tests) => writeXlsx(toTestTables(tests)),
  csv: (tests) => writeCsv(toStepTable(tests)),
  feature: (tests, { title }) => encode(writeFeature(tests, title)),
  md: (tests, { title }) => encode(writeMarkdown(tests, title)),
  html: (tests, head) => encode(writeDocument(tests, { ...head, font: readFont() })),
  mjs: (tests) => encode(writeScript(getOnly(tests))),
  json: (tests) => encode(writeRecording(getOnly(tests), createStepSource(createMoment()))),
  pdf: (tests, head) => printPdf(writeDocument(tests, { ...head, font: readFont() })),
};

/** A program does one test. */
function getOnly(tests: readonly ExportedTest[]): ExportedTest {
  const [test, other] = tests;
  if (!test || other) throw new AppError('invalid', 'A script or recording is of one test. Choose one, and export it again.');
  return test;
}

/** What a recording has in it as fixed values, made when it is written. */
const createMoment = () => ({
  attempt: randomUUID(),
  day: new Date().toISOString().slice(0, 10),
  calendar: { workingDays: [1, 2, 3, 4, 5], holidays: [] },
  values: [],
});
