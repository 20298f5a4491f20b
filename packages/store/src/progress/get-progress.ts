import { and, asc, desc, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { HoldView, ProgressQuery, ProgressView } from '@kindred-baton/contracts/progress/progress';
import type { DefectId, TurnId } from '@kindred-baton/core/ids';
import type { Hold } from '@kindred-baton/core/progress/find-holds';
import { NO_COUNTS, addCounts, codeFacet, codeStatuses, getCounts, tallyTurns } from '@kindred-baton/core/progress/tally';
import { findCurrentCycle } from '../programmes/find-current-cycle.ts';
import type { Tree } from '../map/load-tree.ts';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { cycles } from '../schema/cycles.ts';
import type { FacetNames, FacetValue } from '../turns/facets.ts';
import { TURN_FACETS } from '../turns/facets.ts';
import type { CycleTurn, CycleTurns } from '../runs/load-holds.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { loadTroubleWords } from '../runs/load-trouble-words.ts';
import { loadFacetNames } from './load-facet-names.ts';

/** Progress of a cycle over two facets, scoped to a branch of the map, and where its baton is held. */
export const getProgress: Query<ProgressQuery, ProgressView> = {
  right: 'read',
  read: async (context, query) => {
    const [cycle, cycleRows, names, tree] = await Promise.all([
      findCycle(context, query.cycle),
      listCycleNames(context),
      loadFacetNames(context),
      loadTree(context),
    ]);
    if (!cycle)
      return { cycle: null, cycles: cycleRows, rows: [], columns: [], cells: [], total: NO_COUNTS, holds: [], waitingBehindHolds: 0 };
    const loaded = await loadHolds(context, cycle.id);
    const inScope = toScope(tree, query.scope);
    const facetNames = { ...names, tree };
    const scoped = loaded.turns.filter((turn) => inScope(turn));
    const holds = scopeHolds(loaded, inScope);
    const words = await loadTroubleWords(context, holds.flatMap(({ kind, at }) => (kind === 'block' ? at.slice(0, 1) : [])) as TurnId[]);
    return {
      cycle: { code: cycle.code, name: cycle.name, state: cycle.state, startsOn: cycle.startsOn, endsOn: cycle.endsOn },
      cycles: cycleRows,
      ...layOutTable(scoped, query, facetNames),
      holds: holds.map((hold) => toHoldView(hold, loaded, { ...facetNames, words })),
      waitingBehindHolds: new Set(holds.flatMap((hold) => hold.behind)).size,
    };
  },
};

async function findCycle(context: ReadContext, code: string | undefined): Promise<CycleRow | undefined> {
  if (code === undefined) return findCurrentCycle(context);
  const [cycle] = await context.db
    .select()
    .from(cycles)
    .where(and(eq(cycles.programmeId, context.actor.programmeId), eq(cycles.code, code)));
  if (!cycle) throw new AppError('not found', `There is no cycle ${code}.`);
  return cycle;
}

function listCycleNames({ db, actor }: ReadContext) {
  return db
    .select({ code: cycles.code, name: cycles.name })
    .from(cycles)
    .where(eq(cycles.programmeId, actor.programmeId))
    .orderBy(desc(cycles.startsOn), asc(cycles.code));
}

function toScope(tree: Tree, scope: string | undefined): (turn: Pick<CycleTurn, 'nodeId'>) => boolean {
  if (scope === undefined) return () => true;
  const ids = new Set(listSubtree(tree, scope));
  return (turn) => ids.has(turn.nodeId);
}

/** In a scope, a hold counts the turns of that scope that wait behind it; one with none is left out. */
function scopeHolds({ holds, turns }: CycleTurns, inScope: (turn: CycleTurn) => boolean): Hold[] {
  const byId = new Map(turns.map((turn) => [turn.id as string, turn]));
  return holds
    .map((hold) => {
      const behind = hold.behind.filter((id) => {
        const turn = byId.get(id);
        return turn !== undefined && inScope(turn);
      });
      const waiting = behind.flatMap((id) => byId.get(id) ?? []);
      return {
        ...hold,
        behind,
        runs: new Set(waiting.map((turn) => turn.run)).size,
        teams: new Set(waiting.map((turn) => turn.team)).size,
        minutes: waiting.reduce((sum, turn) => sum + turn.minutes, 0),
        isHere: hold.at.some((id) => {
          const turn = byId.get(id);
          return turn !== undefined && inScope(turn);
        }),
      };
    })
    .filter((hold) => hold.behind.length > 0 || hold.isHere)
    .sort((a, b) => b.behind.length - a.behind.length || b.minutes - a.minutes);
}

function layOutTable(
  turns: readonly CycleTurn[],
  query: ProgressQuery,
  names: FacetNames,
): Pick<ProgressView, 'rows' | 'columns' | 'cells' | 'total'> {
  const code = (facet: ProgressQuery['rows']) => {
    const values = new Map<string, FacetValue>();
    const keys = turns.map((turn) => {
      const value = TURN_FACETS[facet].read(turn, names);
      if (!values.has(value.key)) values.set(value.key, value);
      return value.key;
    });
    const sorted = [...values.values()].sort((a, b) => a.order - b.order || a.name.localeCompare(b.name, 'en'));
    return {
      sorted,
      facet: codeFacet(
        keys,
        sorted.map((value) => value.key),
      ),
    };
  };
  const rows = code(query.rows);
  const columns = code(query.columns);
  const sheet = {
    size: turns.length,
    status: codeStatuses(turns.map((turn) => turn.status)),
    node: new Int32Array(turns.length),
    parents: Int32Array.of(-1),
  };
  const tally = tallyTurns(sheet, { rows: rows.facet, columns: columns.facet });
  const cells = rows.sorted.map((_, row) =>
    columns.sorted.map((__, column) => getCounts(tally.cells, row * columns.sorted.length + column)),
  );
  return {
    rows: rows.sorted.map(({ key, name, group }) => ({ key, name, group })),
    columns: columns.sorted.map(({ key, name }) => ({ key, name })),
    cells,
    total: cells.flat().reduce(addCounts, NO_COUNTS),
  };
}

function toHoldView(
  hold: Hold,
  { turns, defects }: CycleTurns,
  names: FacetNames & { readonly words: ReadonlyMap<TurnId, string> },
): HoldView {
  const first = turns.find((turn) => turn.id === hold.at[0]);
  const team = names.teams.get(first?.teamId ?? '') ?? '';
  const title = first?.title ?? '';
  const said = first ? (names.words.get(first.id) ?? '') : '';
  const describe = {
    defect: () => {
      const defect = defects.get(hold.key as DefectId);
      return { title: defect?.title ?? '', detail: `${defect?.code ?? ''} · ${team}` };
    },
    failure: () => ({ title: `${title} failed`, detail: `${team} · no defect logged yet` }),
    block: () => ({ title: `${title} is blocked`, detail: said === '' ? team : `${team} · “${said}”` }),
    idle: () => ({
      title: `Waiting for ${names.people.get(hold.key) ?? 'nobody'}`,
      detail: hold.at.length === 1 ? title : `${title} and ${hold.at.length - 1} more`,
    }),
  };
  return {
    ...{ kind: hold.kind, key: hold.key, ...describe[hold.kind]() },
    ...{ waiting: hold.behind.length, runs: hold.runs, teams: hold.teams, minutes: hold.minutes },
    opens: toOpens(hold, defects),
    since: hold.sinceMs === null ? null : new Date(hold.sinceMs).toISOString(),
  };
}

/** Where what holds is looked at: the defect, or the turn; a person has no page of her own here. */
function toOpens({ kind, key }: Hold, defects: CycleTurns['defects']): HoldView['opens'] {
  if (kind === 'idle') return null;
  const code = kind === 'defect' ? defects.get(key as DefectId)?.code : undefined;
  return code === undefined ? { kind: 'turn', id: key as TurnId } : { kind: 'defect', code };
}
