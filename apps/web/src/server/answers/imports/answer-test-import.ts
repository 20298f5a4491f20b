import type { TestImportPreview } from '@kindred-baton/contracts/imports/import';
import { testImportOptionsSchema } from '@kindred-baton/contracts/imports/import';
import type { TestComparison } from '@kindred-baton/core/imports/compare-tests';
import { compareTestImport, storeTestImport } from '@kindred-baton/store/imports/store-test-import';
import type { Call } from '../../call.ts';
import { READERS } from '../../aside/readers.ts';
import type { Upload } from '../../read-upload.ts';
import { toProblemLine, toTestChanges } from './to-change-lines.ts';
import { toFingerprint } from './to-fingerprint.ts';

const BY_HAND_SHOWN = 200;

/** Looks at tests in plain language; with the fingerprint of what was seen, what is new and changed is stored. */
export async function answerTestImport(
  context: Pick<Call, 'ask' | 'perform'>,
  { name, bytes, options: raw, more }: Upload,
): Promise<TestImportPreview> {
  const { sheet, mapping, activity, accept } = testImportOptionsSchema.parse(raw);
  const reading = await READERS.tests({ name, bytes }, { sheet, mapping, data: more });
  const { entries } = reading;
  const comparison = await context.ask(compareTestImport, { entries, activity });
  const problems = [...reading.problems, ...comparison.problems];
  const toSeen = ({ differences }: TestComparison) => toFingerprint(differences);
  const isStored = accept !== undefined && problems.length === 0;
  if (isStored) await context.perform(storeTestImport, { entries, activity, seen: (again) => toSeen(again) === accept });
  return {
    ...{
      file: name,
      fingerprint: toSeen(comparison),
      isStored,
      warnings: reading.dataSheets.map((data) => `Sheet ${data} was taken as data rows.`),
      format: reading.format,
    },
    problems: problems.map(toProblemLine),
    columns: reading.columns,
    mapping: reading.mapping && { ...reading.mapping },
    ...toTestChanges(comparison.differences),
    sentences: entries.reduce((sum, entry) => sum + entry.sentences, 0),
    byHand: entries.reduce((sum, entry) => sum + entry.byHand, 0),
    handSteps: entries
      .flatMap((entry) => entry.steps.flatMap((step) => (step.do === 'hand' ? [{ test: entry.name, text: step.target }] : [])))
      .slice(0, BY_HAND_SHOWN),
  };
}
