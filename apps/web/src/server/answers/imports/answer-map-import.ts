import type { MapImportPreview } from '@kindred-baton/contracts/imports/import';
import { mapImportOptionsSchema } from '@kindred-baton/contracts/imports/import';
import type { MapComparison, MapDifference } from '@kindred-baton/core/imports/compare-map';
import { countKinds } from '@kindred-baton/core/imports/compare-map';
import { readMapFile } from '@kindred-baton/formats/map/read-map-file';
import { compareMapImport, storeMapImport } from '@kindred-baton/store/imports/store-map-import';
import type { Call } from '../../call.ts';
import type { Upload } from '../../read-upload.ts';
import { toFingerprint } from './to-fingerprint.ts';
import { toColumns } from './to-columns.ts';

const MOST_SHOWN = 5_000;

/** Looks at a process list; with the fingerprint of what was seen, the chosen differences are stored. */
export async function answerMapImport(context: Call, { name, bytes, options: raw }: Upload): Promise<MapImportPreview> {
  const { sheet, mapping, below, addsNames, leftOut, missing, accept } = mapImportOptionsSchema.parse(raw);
  const reading = await readMapFile({ name, bytes }, { sheet, mapping });
  const { entries } = reading;
  const comparison = await context.ask(compareMapImport, { entries, below, addsNames });
  const problems = [...reading.problems, ...(entries.length > 0 ? comparison.problems : [])];
  const toSeen = ({ differences }: MapComparison) => toFingerprint(differences);
  const isStored = accept !== undefined && problems.length === 0;
  if (isStored) {
    const choice = { leftOut, missing };
    await context.perform(storeMapImport, { entries, below, addsNames, choice, seen: (again) => toSeen(again) === accept });
  }
  const shown = entries.length === 0 ? [] : takeDiffering(comparison.differences);
  return {
    ...{ file: name, fingerprint: toSeen(comparison), isStored, format: reading.format, warnings: [...reading.warnings] },
    problems: problems.map(({ sheet: at, row, column, message }) => ({ sheet: at, row, column, message })),
    columns: reading.table && toColumns(reading.table, reading.sheets),
    mapping: reading.mapping && { ...reading.mapping, levels: [...reading.mapping.levels] },
    counts: countKinds(entries.length === 0 ? [] : comparison.differences),
    differences: shown
      .slice(0, MOST_SHOWN)
      .map(({ changes, fields: _, place: __, ...line }) => ({ ...line, changes: changes.map((change) => ({ ...change })) })),
    more: Math.max(0, shown.length - MOST_SHOWN),
    newTeams: [...comparison.newTeams],
    newApplications: [...comparison.newApplications],
  };
}

/** What differs, and the unchanged nodes above it, so that branches can be chosen. */
function takeDiffering(differences: readonly MapDifference[]): MapDifference[] {
  const byCode = new Map(differences.map((difference) => [difference.code, difference]));
  const kept = new Set<string>();
  for (const { kind, code } of differences) {
    if (kind === 'same') continue;
    for (let at = byCode.get(code); at && !kept.has(at.code); at = at.parent === null ? undefined : byCode.get(at.parent))
      kept.add(at.code);
  }
  return differences.filter(({ code }) => kept.has(code));
}
