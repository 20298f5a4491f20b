import { eq, max } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { MapComparison, MapSurroundings } from '@kindred-baton/core/imports/compare-map';
import { compareMap, countKinds } from '@kindred-baton/core/imports/compare-map';
import type { DifferenceChoice } from '@kindred-baton/core/imports/choose-differences';
import { toMapEdits, toNodeStates } from '@kindred-baton/core/imports/choose-differences';
import type { MapEntry } from '@kindred-baton/core/imports/map-table';
import type { MapEdit } from '@kindred-baton/core/map/edit-outline';
import { applyEdits, lockMap } from '../map/edit-map.ts';
import type { MapOutlineNode, Outline } from '../map/load-outline.ts';
import { loadOutline, loadOutlineNames } from '../map/load-outline.ts';
import { createId } from '../ids.ts';
import type { Context, Operation, Query } from '../operation.ts';
import { applications, teams } from '../schema/programmes.ts';

export interface MapImport {
  readonly entries: readonly MapEntry[];
  /** The node that the list goes below; null: the top. */
  readonly below: string | null;
  readonly addsNames: boolean;
}

/** A process list against the map: what is new, changed, moved, missing. */
export const compareMapImport: Query<MapImport, MapComparison> = {
  right: 'edit map',
  read: async (context, { entries, below, addsNames }) =>
    compareMap(entries, toSurroundings(await loadOutline(context)), { below, addsNames }),
};

/**
 * Takes the chosen differences in, all or nothing. It is compared again in the same transaction; when somebody has changed
 * the map since the preview, so that other differences come out, nothing is stored.
 */
export const storeMapImport: Operation<
  MapImport & { readonly choice: DifferenceChoice; readonly seen: (comparison: MapComparison) => boolean },
  { changed: number }
> = {
  right: 'edit map',
  run: async (context, { entries, below, addsNames, choice, seen }) => {
    await lockMap(context);
    const outline = await loadOutline(context);
    const comparison = compareMap(entries, toSurroundings(outline), { below, addsNames });
    if (!seen(comparison)) throw new AppError('conflict', 'The map has changed since the preview; look at the file again.');
    if (comparison.problems.length > 0) throw new AppError('invalid', 'There is something to mend in the file; nothing was stored.');
    const edits = toMapEdits(comparison.differences, choice) as readonly MapEdit<MapOutlineNode>[];
    if (edits.length === 0) return { changed: 0 };
    if (addsNames) await addNames(context, comparison);
    await applyEdits(context, addsNames ? { ...outline, names: await loadOutlineNames(context) } : outline, edits);
    const counts = countKinds(comparison.differences);
    await context.record({
      subject: 'programme',
      subjectId: context.actor.programmeId,
      action: 'process list imported',
      details: { ...counts },
    });
    return { changed: edits.length };
  },
};

/** Colours that new teams are given in turn; told apart on paper and in the dark. */
const TEAM_COLOURS = ['#3f7d8c', '#8c6d3f', '#6d5a8c', '#4f7d4f', '#8c4f5f', '#5f6d7d'];

async function addNames({ db, actor }: Context, { newTeams, newApplications }: MapComparison): Promise<void> {
  const programmeId = actor.programmeId;
  const [last] = await db
    .select({ position: max(teams.position) })
    .from(teams)
    .where(eq(teams.programmeId, programmeId));
  const from = (last?.position ?? -1) + 1;
  if (newTeams.length > 0)
    await db.insert(teams).values(
      newTeams.map((name, index) => ({
        ...{ id: createId<'team'>(), programmeId, name, position: from + index, workingDays: [1, 2, 3, 4, 5], hoursPerDay: 2 },
        colour: TEAM_COLOURS[(from + index) % TEAM_COLOURS.length] ?? '#5f6d7d',
      })),
    );
  if (newApplications.length > 0)
    await db.insert(applications).values(newApplications.map((name) => ({ id: createId<'application'>(), programmeId, name })));
}

/** The map as process lists are compared with it. */
export function toSurroundings({ nodes, levels, codeScheme, names }: Outline): MapSurroundings {
  return {
    ...{ levels, scheme: codeScheme, nodes: toNodeStates(nodes) },
    ...{ teams: names.teams.names, applications: names.applications.names, people: names.people.names },
  };
}
