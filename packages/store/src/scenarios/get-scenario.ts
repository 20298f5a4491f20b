import { and, asc, desc, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { LegDetail, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { ScenarioId, TeamId } from '@kindred-baton/core/ids';
import { getPath } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { toVersionView } from '../tests/get-test.ts';
import type { LoadedLeg } from './load-chains.ts';
import { loadChains } from './load-chains.ts';

/** A scenario with its legs as the relay draws them, and the runs that it had. The wiring is computed where it is shown. */
export const getScenario: Query<string, ScenarioDetail> = {
  right: 'read',
  read: async (context, code) => {
    const id = await findScenarioId(context, code);
    const [{ tree, scenarios: loaded }, teamRows, runRows] = await Promise.all([
      loadChains(context, [id]),
      context.db.select({ id: teams.id, name: teams.name }).from(teams).where(eq(teams.programmeId, context.actor.programmeId)),
      listRuns(context, id),
    ]);
    const found = loaded[0];
    if (!found) throw new AppError('not found', `There is no scenario ${code}.`);
    const { scenario, rows, legs } = found;
    const teamOf = new Map(teamRows.map((team) => [team.id, team]));
    return {
      ...{ id, code, name: scenario.name, state: scenario.state },
      columns: scenario.columns.map((column) => ({ ...column, choices: column.choices ? [...column.choices] : undefined })),
      path: getPath(tree, scenario.nodeId).map(({ node }) => ({ code: node.code, name: node.name })),
      rows: rows.map((row) => ({ id: row.id, name: row.name, values: row.values })),
      legs: legs.map((leg) => toLegDetail(leg, teamOf)),
      isInOpenCycle: runRows.some((run) => run.state === 'open' || run.state === 'closing'),
      runs: runRows.map((run) => ({
        id: run.id,
        label: `${run.cycle}${run.rowName ? `, ${run.rowName}` : ''}`,
        rowName: run.rowName,
        cycle: run.cycle,
      })),
    };
  },
};

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
    .select({ id: runs.id, rowName: runs.rowName, cycle: cycles.name, state: cycles.state })
    .from(runs)
    .innerJoin(cycles, eq(cycles.id, runs.cycleId))
    .where(eq(runs.scenarioId, scenarioId))
    .orderBy(desc(eq(cycles.state, 'open')), desc(cycles.startsOn), asc(runs.number))
    .limit(100);
}

function toLegDetail(
  { row, test, version, view, teamId }: LoadedLeg,
  teamOf: ReadonlyMap<TeamId, { id: TeamId; name: string }>,
): LegDetail {
  const fields = version ? toVersionView(version, null) : { needs: [], gives: [] };
  return {
    id: row.id,
    title: view.title,
    test:
      test && version
        ? { code: test.code, version: version.number, state: version.state, steps: version.steps.length, minutes: test.minutes }
        : null,
    team: (teamId && teamOf.get(teamId)) ?? null,
    needs: fields.needs,
    gives: fields.gives,
    ownValues: { ...view.ownValues },
    after: row.after,
    wires: row.wires as LegDetail['wires'],
    waitDays: row.waitDays,
    place: view.place ?? null,
  };
}
