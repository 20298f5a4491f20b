import type { WorkbookImportPreview } from '@kindred-baton/contracts/imports/import';
import { workbookImportOptionsSchema } from '@kindred-baton/contracts/imports/import';
import type { ScenarioDifference, WorkbookComparison } from '@kindred-baton/core/imports/compare-workbook';
import { toWorkbookEntries } from '@kindred-baton/core/imports/workbook-entries';
import { compareWorkbookImport, storeWorkbookImport } from '@kindred-baton/store/imports/store-workbook-import';
import type { Call } from '../../call.ts';
import { READERS } from '../../aside/readers.ts';
import type { Upload } from '../../read-upload.ts';
import { countChanges, toMapChanges, toProblemLine, toTestChanges } from './to-change-lines.ts';
import { toFingerprint } from './to-fingerprint.ts';

const MOST_SCENARIOS_SHOWN = 500;

/** Looks at our own workbook; with the fingerprint of what was seen, it is taken in: all of it or nothing. */
export async function answerWorkbookImport(
  context: Pick<Call, 'ask' | 'perform'>,
  { name, bytes, options }: Upload,
): Promise<WorkbookImportPreview> {
  const { accept, agreesNew } = workbookImportOptionsSchema.parse(options);
  const reading = await READERS.workbook({ name, bytes });
  const entries = toWorkbookEntries(reading.sheets);
  const comparison = await context.ask(compareWorkbookImport, entries);
  const problems = [...reading.problems, ...comparison.problems];
  const isStored = accept !== undefined && problems.length === 0;
  if (isStored)
    await context.perform(storeWorkbookImport, { entries, agreesNew, seen: (again) => toFingerprint(toSeen(again)) === accept });
  return {
    ...{ file: name, fingerprint: toFingerprint(toSeen(comparison)), isStored, warnings: [...comparison.warnings] },
    problems: problems.map(toProblemLine),
    map: toMapChanges(comparison.map.differences, { withMissing: false }),
    tests: toTestChanges(comparison.tests.differences),
    scenarios: {
      counts: countChanges(comparison.scenarios),
      differences: comparison.scenarios.flatMap(toScenarioLine).slice(0, MOST_SCENARIOS_SHOWN),
    },
  };
}

/** What was seen, without the ids that new legs are given each time. */
const toSeen = ({ map, tests, scenarios, warnings }: WorkbookComparison) => ({
  ...{ map: map.differences, tests: tests.differences, warnings },
  scenarios: scenarios.map(({ edits: _, document: __, ...seen }) => seen),
});

function toScenarioLine({ kind, name, ...difference }: ScenarioDifference): WorkbookImportPreview['scenarios']['differences'] {
  if (kind === 'same') return [];
  const { code, changes, comparison, findings, document } = difference;
  return [
    {
      ...{ kind, code, title: name, comparison, findings: [...findings], changes: changes.map((change) => ({ ...change })) },
      legs: document.legs.length,
      openLegs: document.legs.filter(({ test }) => test === null).length,
      rows: document.rows.length,
    },
  ];
}
