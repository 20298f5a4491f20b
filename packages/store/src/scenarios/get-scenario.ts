import { and, asc, desc, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { DrawnTestView, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { ScenarioId } from '@kindred-baton/core/ids';
import type { Tree } from '../map/load-tree.ts';
import { getPath } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { personas } from '../schema/personas.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { toVersionView } from '../tests/get-test.ts';
import type { LoadedLeg } from './load-chains.ts';
import { toDocument } from './document.ts';
import { listDrawn, loadChains } from './load-chains.ts';

/** A scenario with its legs as the relay draws them, and the runs that it had. The wiring is computed where it is shown. */
export const getScenario: Query<string, ScenarioDetail> = {
  right: 'read',
  read: async (context, code) => {
    const id = await findScenarioId(context, code);
    const here = context.actor.programmeId;
    const [{ tree, scenarios: loaded }, teamRows, personaRows, runRows] = await Promise.all([
      loadChains(context, [id]),
      context.db.select({ id: teams.id, name: teams.name }).from(teams).where(eq(teams.programmeId, here)).orderBy(asc(teams.name)),
      context.db
        .select({ id: personas.id, name: personas.name })
        .from(personas)
        .where(eq(personas.programmeId, here))
        .orderBy(asc(personas.name)),
      listRuns(context, id),
    ]);
    const found = loaded[0];
    if (!found) throw new AppError('not found', `There is no scenario ${code}.`);
    const { scenario } = found;
    return {
      ...{ id, code, name: scenario.name, state: scenario.state },
      path: getPath(tree, scenario.nodeId).map(({ node }) => ({ code: node.code, name: node.name })),
      // What is read-only in core is plain on the wire.
      document: toDocument(found) as ScenarioDetail['document'],
      tests: Object.fromEntries([...listDrawn(found)].flatMap(([key, leg]) => toDrawnEntry(key, leg, tree))),
      teams: teamRows,
      personas: personaRows,
      isInOpenCycle: runRows.some((run) => run.state === 'open' || run.state === 'closing'),
      runs: runRows.slice(0, RUNS_SHOWN).map((run) => ({
        id: run.id,
        label: `${run.cycle}${run.rowName ? `, ${run.rowName}` : ''}`,
        rowName: run.rowName,
        cycle: run.cycle,
      })),
      ranRows: [...new Set(runRows.flatMap(({ rowId }) => rowId ?? []))],
    };
  },
};

const RUNS_SHOWN = 100;

export async function findScenarioId({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, code: string): Promise<ScenarioId> {
  const [row] = await db
    .select({ id: scenarios.id })
    .from(scenarios)
    .where(and(eq(scenarios.programmeId, actor.programmeId), eq(scenarios.code, code)));
  if (!row) throw new AppError('not found', `There is no scenario ${code}.`);
  return row.id;
}

function listRuns({ db }: ReadContext, scenarioId: ScenarioId) {
  return db
    .select({ id: runs.id, rowId: runs.rowId, rowName: runs.rowName, cycle: cycles.name, state: cycles.state })
    .from(runs)
    .innerJoin(cycles, eq(cycles.id, runs.cycleId))
    .where(eq(runs.scenarioId, scenarioId))
    .orderBy(desc(eq(cycles.state, 'open')), desc(cycles.startsOn), asc(runs.number));
}

function toDrawnEntry(key: string, { test, version, newer, drawn, view }: LoadedLeg, tree: Tree): [string, DrawnTestView][] {
  if (!test || !version || !drawn) return [];
  const fields = toVersionView(version, null);
  return [
    [
      key,
      {
        ...{ code: test.code, name: test.name, version: version.number, newer, state: version.state, isRetired: drawn.isRetired },
        ...{ steps: version.steps.length, minutes: test.minutes, team: test.teamId, needs: fields.needs, gives: fields.gives },
        node: tree.byId.get(test.nodeId)?.node.code ?? '',
        ownValues: { ...drawn.ownValues },
        place: view.place ?? null,
      },
    ],
  ];
}
