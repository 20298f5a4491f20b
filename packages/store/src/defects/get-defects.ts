import type { BoardColumn } from '@kindred-baton/core/defects/board-columns';
import { toBoardColumns } from '@kindred-baton/core/defects/board-columns';
import { DEFECT_STATUSES, isHolding, isOver } from '@kindred-baton/core/defects/defect';
import { and, asc, count, eq, inArray, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { AppError } from '@kindred-baton/contracts/errors';
import type { DefectDetail, DefectList, DefectListItem, DefectPage, DefectQuery } from '@kindred-baton/contracts/defects/defect';
import { CARDS_A_COLUMN, DEFECTS_A_PAGE, MOST_FIXERS, TURNS_OF_DEFECT } from '@kindred-baton/contracts/defects/defect';
import { listHappenings } from '@kindred-baton/core/defects/happenings';
import { NONE } from '@kindred-baton/core/progress/facet';
import { cutPage } from '@kindred-baton/core/tables/pages';
import { toDay } from '@kindred-baton/core/time/calendar';
import { collectBaton } from '@kindred-baton/core/turns/assess-run';
import type { DefectId, RunId } from '@kindred-baton/core/ids';
import type { Query, ReadContext } from '../operation.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { defectTurns, defectWords, defects } from '../schema/defects.ts';
import { history } from '../schema/history.ts';
import { nodes } from '../schema/map.ts';
import { people } from '../schema/people.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { attempts, evidence, turns } from '../schema/turns.ts';
import { loadRuns } from '../runs/load-runs.ts';
import { loadBranch, loadLives, readItems } from './read-defects.ts';

/** All defects, newest first, with the turns that wait for each. */
export const listDefects: Query<void, DefectList> = {
  right: 'read',
  read: async (context) => {
    const items = await loadItems(context);
    return { defects: items.map(toListItem) };
  },
};

/** A page of them, or the board, with the first line over the whole branch. */
export const listDefectPage: Query<DefectQuery, DefectPage> = {
  right: 'read',
  read: async (context, query) => {
    const [items, isHere] = await Promise.all([loadItems(context), loadBranch(context, query.scope)]);
    const here = items.filter(isHere);
    const open = here.filter(({ status }) => !isOver(status));
    const isAll = query.show === 'all';
    const shown = (await keepWanted(context, here, query))
      .map(toListItem)
      .filter(({ status }) => isAll || !isOver(status))
      .sort((a, b) => b.waiting - a.waiting);
    return {
      ...{ open: open.length, waiting: new Set(open.flatMap(({ behind }) => behind)).size },
      ...(query.view === 'board' ? toBoard(toBoardColumns(shown, isAll)) : toList(shown, query)),
      teams: listNames(here.map(({ team }) => team)),
      people: listNames(here.map(({ assignee }) => assignee)),
    };
  },
};

type Item = Awaited<ReturnType<typeof loadItems>>[number];

const toListItem = ({ behind, id: _id, changedAt: _at, cycle, cycleName, ...item }: Item): DefectListItem => ({
  ...item,
  ...{ foundAt: new Date(item.foundAt).toISOString(), cycle: { code: cycle, name: cycleName }, waiting: behind.length },
});

async function keepWanted(context: ReadContext, items: readonly Item[], query: DefectQuery): Promise<Item[]> {
  const { team, with: assignee, cycle, severity, happened, on } = query;
  const isAsked = <Value>(asked: Value | undefined, own: Value) => asked === undefined || asked === own;
  const own = items.filter(
    (item) =>
      isAsked(team, item.team ?? NONE) &&
      isAsked(assignee, item.assignee) &&
      isAsked(cycle, item.cycle) &&
      isAsked(severity, item.severity),
  );
  if (happened === undefined) return own;
  const lives = await loadLives(context, own);
  const dayOf = (atMs: number) => toDay(atMs, context.actor.timeZone);
  const isIt = ({ kind, atMs }: ReturnType<typeof listHappenings>[number]) => kind === happened && isAsked(on, dayOf(atMs));
  return own.filter(({ id }) => listHappenings(lives.get(id)!).some(isIt));
}

const listNames = (names: readonly (string | null)[]) => [...new Set(names.flatMap((name) => name ?? []))].sort();

type Shown = Pick<DefectPage, 'rows' | 'defects' | 'columns' | 'more'>;

/** A page behind the end is the last. */
function toList(all: readonly DefectListItem[], query: DefectQuery): Shown {
  const own = query.column === undefined ? all : (toBoardColumns(all, true).find(({ key }) => key === query.column)?.defects ?? []);
  const { at, shown } = cutPage(own, { page: query.page, of: DEFECTS_A_PAGE });
  return { rows: at, defects: [...shown], columns: [], more: { people: 0, defects: 0 } };
}

function toBoard(all: readonly BoardColumn<DefectListItem>[]): Shown {
  const isFixer = ({ key }: BoardColumn<DefectListItem>) => key.startsWith('fix ');
  const rest = all.filter(isFixer).slice(MOST_FIXERS);
  return {
    ...{ rows: { page: 1, from: 0, size: 0 }, defects: [] },
    columns: all
      .filter((column) => !rest.includes(column))
      .map(({ defects: own, ...column }) => ({ ...column, total: own.length, defects: own.slice(0, CARDS_A_COLUMN) })),
    more: { people: rest.length, defects: rest.reduce((sum, { defects: own }) => sum + own.length, 0) },
  };
}

/** Every defect with the turns that wait behind it; only cycles that are not over have any, and there is at most a handful of those. */
async function loadItems(context: ReadContext) {
  const [rows, behindOf] = await Promise.all([readItems(context), loadBehind(context)]);
  return rows.map((item) => ({ ...item, behind: behindOf.get(item.id) ?? [] }));
}

/** The turns behind each defect that holds any. */
async function loadBehind(context: ReadContext): Promise<ReadonlyMap<string, readonly string[]>> {
  const holding = await context.db
    .selectDistinct({ id: defects.cycleId })
    .from(defects)
    .where(and(eq(defects.programmeId, context.actor.programmeId), inArray(defects.status, DEFECT_STATUSES.filter(isHolding))));
  const { holds } = await loadHolds(
    context,
    holding.map(({ id }) => id),
  );
  return new Map(holds.filter(({ kind }) => kind === 'defect').map(({ key, behind }) => [key, behind]));
}

function toBase(defect: typeof defects.$inferSelect) {
  const { code, title, kind, severity, priority, status, foundAt, dueOn } = defect;
  return { code, title, kind, severity, priority, status, dueOn, foundAt: foundAt.toISOString() };
}

function loadDefect({ db, actor }: ReadContext, code: string) {
  const assignees = alias(people, 'assignees');
  return db
    .select({
      assignee: assignees.name,
      run: runs.id,
      defect: defects,
      team: teams.name,
      cycle: { code: cycles.code, name: cycles.name },
      foundBy: people.name,
      node: nodes.code,
      nodeName: nodes.name,
    })
    .from(defects)
    .innerJoin(cycles, eq(cycles.id, defects.cycleId))
    .innerJoin(people, eq(people.id, defects.foundBy))
    .leftJoin(teams, eq(teams.id, defects.teamId))
    .leftJoin(assignees, eq(assignees.id, defects.assigneeId))
    .leftJoin(attempts, eq(attempts.id, defects.attemptId))
    .leftJoin(turns, eq(turns.id, attempts.turnId))
    .leftJoin(runs, eq(runs.id, turns.runId))
    .leftJoin(nodes, eq(nodes.id, sql`coalesce(${turns.nodeId}, ${defects.nodeId})`))
    .where(and(eq(defects.programmeId, actor.programmeId), eq(defects.code, code)));
}

export const getDefect: Query<string, DefectDetail> = {
  right: 'read',
  read: async (context, code) => {
    const [row] = await loadDefect(context, code);
    if (!row) throw new AppError('not found', `There is no defect ${code}.`);
    const { defect } = row;
    const [files, held, [counted], { holds }, changes, talk, found] = await Promise.all([
      listEvidence(context, defect),
      listHeldTurns(context, defect.id),
      context.db.select({ turns: count() }).from(defectTurns).where(eq(defectTurns.defectId, defect.id)),
      loadHolds(context, [defect.cycleId]),
      listHistory(context, defect.id),
      listTalk(context, defect.id),
      row.run ? loadFound(context, row.run, defect) : null,
    ]);
    const hold = holds.find((candidate) => candidate.kind === 'defect' && candidate.key === defect.id);
    const { id, stepIndex, expected, seen, steps, environment, browser, persona, reason, teamId, assigneeId, foundBy } = defect;
    return {
      ...toBase(defect),
      ...{ foundById: foundBy, seenAt: defect.nodeId && row.node !== null ? { code: row.node, name: row.nodeName ?? '' } : null },
      ...{ id, stepIndex, expected, seen, steps, environment, browser, persona, reason, teamId, assigneeId, talk },
      ...{ links: defect.links.map((link) => ({ ...link })), run: found?.run ?? null, baton: found?.baton ?? [] },
      ...{ assignee: row.assignee, team: row.team, cycle: row.cycle, foundBy: row.foundBy, evidence: files },
      ...{ turns: held, seenAtTurns: counted?.turns ?? 0 },
      waiting: { turns: hold?.behind.length ?? 0, runs: hold?.runs ?? 0, teams: hold?.teams ?? 0, minutes: hold?.minutes ?? 0 },
      history: changes,
    };
  },
};

async function listEvidence({ db }: ReadContext, defect: typeof defects.$inferSelect): Promise<DefectDetail['evidence']> {
  if (!defect.attemptId) return [];
  return db
    .select({ id: evidence.id, stepIndex: evidence.stepIndex, name: evidence.name, mediaType: evidence.mediaType, size: evidence.size })
    .from(evidence)
    .where(and(eq(evidence.attemptId, defect.attemptId), eq(evidence.stepIndex, defect.stepIndex)))
    .orderBy(asc(evidence.addedAt));
}

function listHeldTurns({ db }: ReadContext, id: DefectId) {
  return db
    .select({
      id: turns.id,
      title: turns.title,
      status: turns.status,
      scenario: scenarios.name,
      assignee: people.name,
      isRetestDue: turns.isRetestDue,
    })
    .from(defectTurns)
    .innerJoin(turns, eq(turns.id, defectTurns.turnId))
    .innerJoin(runs, eq(runs.id, turns.runId))
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .leftJoin(people, eq(people.id, turns.assigneeId))
    .where(eq(defectTurns.defectId, id))
    .orderBy(asc(scenarios.code), asc(turns.index))
    .limit(TURNS_OF_DEFECT);
}

async function listHistory({ db }: ReadContext, id: DefectId): Promise<DefectDetail['history']> {
  const rows = await db
    .select({ action: history.action, by: people.name, at: history.at })
    .from(history)
    .leftJoin(people, eq(people.id, history.personId))
    .where(eq(history.subjectId, id))
    .orderBy(asc(history.id));
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

async function listTalk({ db }: ReadContext, id: DefectId): Promise<DefectDetail['talk']> {
  const rows = await db
    .select({ id: defectWords.id, by: people.name, at: defectWords.at, text: defectWords.text })
    .from(defectWords)
    .innerJoin(people, eq(people.id, defectWords.personId))
    .where(eq(defectWords.defectId, id))
    .orderBy(asc(defectWords.at));
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** The run in which it was found, and what the baton holds of the turns before. */
async function loadFound(
  context: ReadContext,
  runId: RunId,
  defect: typeof defects.$inferSelect,
): Promise<Pick<DefectDetail, 'run' | 'baton'>> {
  const [[run], loaded, [attempt]] = await Promise.all([
    context.db
      .select({ id: runs.id, number: runs.number, rowName: runs.rowName, scenario: scenarios.code, name: scenarios.name })
      .from(runs)
      .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
      .where(eq(runs.id, runId)),
    loadRuns(context, [runId]),
    defect.attemptId
      ? context.db
          .select({ index: turns.index })
          .from(attempts)
          .innerJoin(turns, eq(turns.id, attempts.turnId))
          .where(eq(attempts.id, defect.attemptId))
      : [],
  ]);
  const before = (loaded.get(runId)?.views ?? []).slice(0, attempt?.index ?? 0);
  return {
    run: run
      ? { id: run.id, number: run.number, scenario: run.scenario, name: run.rowName === null ? run.name : `${run.name}, ${run.rowName}` }
      : null,
    baton: collectBaton(before).map(({ name, value }) => ({ name, value })),
  };
}
