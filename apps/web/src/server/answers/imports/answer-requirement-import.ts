import type { RequirementImportPreview } from '@kindred-baton/contracts/imports/import';
import { requirementImportOptionsSchema } from '@kindred-baton/contracts/imports/import';
import type { RequirementComparison } from '@kindred-baton/core/imports/compare-requirements';
import { compareRequirementImport, storeRequirementImport } from '@kindred-baton/store/imports/store-requirement-import';
import type { Call } from '../../call.ts';
import { READERS } from '../../aside/readers.ts';
import type { Upload } from '../../read-upload.ts';
import { toProblemLine } from './to-change-lines.ts';
import { toFingerprint } from './to-fingerprint.ts';

const MOST_SHOWN = 5_000;

/** Looks at a list of requirements; with the fingerprint of what was seen, what is new and changed is stored. */
export async function answerRequirementImport(
  context: Pick<Call, 'ask' | 'perform'>,
  { name, bytes, options }: Upload,
): Promise<RequirementImportPreview> {
  const { sheet, columns, accept } = requirementImportOptionsSchema.parse(options);
  const reading = await READERS.requirements({ name, bytes }, { sheet, columns });
  const { entries } = reading;
  const comparison = await context.ask(compareRequirementImport, entries);
  const problems = [...reading.problems, ...comparison.problems];
  const toSeen = ({ differences }: RequirementComparison) => toFingerprint(differences);
  const isStored = accept !== undefined && problems.length === 0;
  if (isStored) await context.perform(storeRequirementImport, { entries, seen: (again) => toSeen(again) === accept });
  const count = (kind: string) => comparison.differences.filter((difference) => difference.kind === kind).length;
  return {
    ...{ file: name, fingerprint: toSeen(comparison), isStored, warnings: [], taken: reading.taken },
    problems: problems.map(toProblemLine),
    columns: reading.columns,
    counts: { new: count('new'), changed: count('changed'), same: count('same'), missing: comparison.missing.length },
    differences: comparison.differences
      .flatMap(({ kind, code, after, changes }) =>
        kind === 'same' ? [] : [{ kind, code, title: after.title, changes: changes.map((change) => ({ ...change })) }],
      )
      .slice(0, MOST_SHOWN),
  };
}
