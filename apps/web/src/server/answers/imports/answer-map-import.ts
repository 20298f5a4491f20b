import type { MapImportPreview } from '@kindred-baton/contracts/imports/import';
import { mapImportOptionsSchema } from '@kindred-baton/contracts/imports/import';
import type { MapComparison } from '@kindred-baton/core/imports/compare-map';
import { compareMapImport, storeMapImport } from '@kindred-baton/store/imports/store-map-import';
import type { Call } from '../../call.ts';
import { READERS } from '../../aside/readers.ts';
import type { Upload } from '../../read-upload.ts';
import { toMapChanges, toProblemLine } from './to-change-lines.ts';
import { toFingerprint } from './to-fingerprint.ts';

/** Looks at a process list; with the fingerprint of what was seen, the chosen differences are stored. */
export async function answerMapImport(
  context: Pick<Call, 'ask' | 'perform'>,
  { name, bytes, options: raw }: Upload,
): Promise<MapImportPreview> {
  const { sheet, mapping, below, addsNames, leftOut, missing, accept } = mapImportOptionsSchema.parse(raw);
  const reading = await READERS.map({ name, bytes }, { sheet, mapping });
  const { entries } = reading;
  const comparison = await context.ask(compareMapImport, { entries, below, addsNames });
  const problems = [...reading.problems, ...(entries.length > 0 ? comparison.problems : [])];
  const toSeen = ({ differences }: MapComparison) => toFingerprint(differences);
  const isStored = accept !== undefined && problems.length === 0;
  if (isStored) {
    const choice = { leftOut, missing };
    await context.perform(storeMapImport, { entries, below, addsNames, choice, seen: (again) => toSeen(again) === accept });
  }
  return {
    ...{ file: name, fingerprint: toSeen(comparison), isStored, format: reading.format, warnings: [...reading.warnings] },
    problems: problems.map(toProblemLine),
    columns: reading.columns,
    mapping: reading.mapping && { ...reading.mapping, levels: [...reading.mapping.levels] },
    ...toMapChanges(entries.length === 0 ? [] : comparison.differences),
    newTeams: [...comparison.newTeams],
    newApplications: [...comparison.newApplications],
  };
}
