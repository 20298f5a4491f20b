import type { ScenarioImportPreview } from '@kindred-baton/contracts/imports/import';
import { scenarioImportOptionsSchema } from '@kindred-baton/contracts/imports/import';
import type { ScenarioImportComparison } from '@kindred-baton/store/imports/store-scenario-import';
import { compareScenarioImport, storeScenarioImport } from '@kindred-baton/store/imports/store-scenario-import';
import type { Call } from '../../call.ts';
import { READERS } from '../../aside/readers.ts';
import type { Upload } from '../../read-upload.ts';
import { toFingerprint } from './to-fingerprint.ts';

const EMPTY = { before: '', after: '', legs: [], data: [], isSame: true };

/** Looks at a scenario's file; with the fingerprint of what was seen, it is taken in. */
export async function answerScenarioImport(
  context: Pick<Call, 'ask' | 'perform'>,
  { name, bytes, options }: Upload,
): Promise<ScenarioImportPreview> {
  const { accept, ...target } = scenarioImportOptionsSchema.parse(options);
  const reading = await READERS.scenario({ name, bytes });
  const asked = { code: target.code ?? '', name: target.name ?? '', node: target.node ?? '' };
  if (!reading.ok)
    return {
      ...{ file: name, fingerprint: '', isStored: false, warnings: [], problems: [{ sheet: name, message: reading.message }] },
      ...{ target: asked, isNew: true, comparison: EMPTY, edits: 0 },
    };
  const input = { file: reading.file, target };
  const seen = await context.ask(compareScenarioImport, input);
  const print = ({ target: at, comparison, problems }: ScenarioImportComparison) => toFingerprint({ at, comparison, problems });
  const isStored = accept !== undefined && seen.problems.length === 0;
  if (isStored) await context.perform(storeScenarioImport, { ...input, isSeen: (again) => print(again) === accept });
  return {
    ...{
      file: name,
      fingerprint: print(seen),
      isStored,
      target: seen.target,
      isNew: seen.isNew,
      comparison: seen.comparison,
      edits: seen.edits,
    },
    problems: seen.problems.map((message) => ({ sheet: name, message })),
    warnings: [...reading.warnings, ...seen.warnings],
  };
}
