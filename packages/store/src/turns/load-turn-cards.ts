import { and, asc, count, eq, inArray, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Arrival, TurnCard } from '@kindred-baton/contracts/turns/turn';
import { isHolding } from '@kindred-baton/core/defects/defect';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import { isTrouble, letsOn } from '@kindred-baton/core/outcomes';
import { pushTo } from '@kindred-baton/core/push-to';
import { resolveNeeds } from '@kindred-baton/core/turns/assess-run';
import type { ReadContext } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { members, teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import type { TurnRow } from '../schema/turns.ts';
import { nudges, turns } from '../schema/turns.ts';
import { withBelongings } from './with-belongings.ts';
import { loadTroubleWords } from '../runs/load-trouble-words.ts';
import type { LoadedRun } from '../runs/load-runs.ts';
import { loadRuns } from '../runs/load-runs.ts';

export interface CardOptions {
  readonly where: SQL | undefined;
  readonly limit: number;
  readonly offset?: number;
  readonly order?: readonly (SQL | PgColumn)[];
}

/** Turns as people see them: what comes in, from whom, who has the baton now, and by what it is held. Six queries. */
export async function loadTurnCards(context: ReadContext, options: CardOptions): Promise<TurnCard[]> {
  const heads = await loadHeads(context, options);
  const loaded = await loadRuns(
    context,
    heads.map((head) => head.turn.runId),
  );
  const mates = [...loaded.values()].flatMap((run) => run.turns);
  const [names, holders, nudged, words] = await Promise.all([
    loadPeople(context),
    loadHoldingDefects(context, mates),
    countNudges(context, mates),
    loadTroubleWords(
      context,
      heads.flatMap(({ turn }) => (isStopped(turn) ? [turn.id] : [])),
    ),
  ]);
  return heads.map((head) => toTurnCard(head, loaded.get(head.turn.runId), { names, defectsAt: holders, nudged, words }));
}

/** Which turns is decided by their narrow columns; only those are read in full. */
function loadHeads({ db, actor }: ReadContext, options: CardOptions) {
  const order = options.order ?? [sql`${turns.dueOn} nulls last`, asc(runs.number), asc(turns.index)];
  const page = withBelongings(db.select({ id: turns.id }).from(turns).$dynamic())
    .where(and(eq(turns.programmeId, actor.programmeId), options.where))
    .orderBy(...order)
    .limit(options.limit)
    .offset(options.offset ?? 0);
  return withBelongings(
    db
      .select({
        turn: turns,
        test: tests.code,
        scenario: { code: scenarios.code, name: scenarios.name },
        rowName: runs.rowName,
        cycle: { code: cycles.code, name: cycles.name },
        team: teams.name,
      })
      .from(turns)
      .$dynamic(),
  )
    .leftJoin(tests, eq(tests.id, turns.testId))
    .where(inArray(turns.id, page))
    .orderBy(...order);
}
type Head = Awaited<ReturnType<typeof loadHeads>>[number];

async function loadPeople({ db, actor }: ReadContext): Promise<Map<PersonId, string>> {
  const rows = await db
    .select({ id: people.id, name: people.name })
    .from(people)
    .innerJoin(members, eq(members.personId, people.id))
    .where(eq(members.programmeId, actor.programmeId));
  return new Map(rows.map((row) => [row.id, row.name]));
}

async function countNudges({ db }: ReadContext, mates: readonly TurnRow[]): Promise<Map<TurnId, number>> {
  const open = mates.filter(({ state }) => state === 'ready' || state === 'under way').map(({ id }) => id);
  if (open.length === 0) return new Map();
  const rows = await db
    .select({ turnId: nudges.turnId, times: count() })
    .from(nudges)
    .where(inArray(nudges.turnId, open))
    .groupBy(nudges.turnId);
  return new Map(rows.map(({ turnId, times }) => [turnId, times]));
}

async function loadHoldingDefects({ db }: ReadContext, mates: readonly TurnRow[]): Promise<Map<TurnId, HoldingDefect[]>> {
  const failed = mates.filter((turn) => isTrouble(turn.outcome)).map((turn) => turn.id);
  if (failed.length === 0) return new Map();
  const rows = await db
    .select({ turnId: defectTurns.turnId, code: defects.code, title: defects.title, status: defects.status })
    .from(defectTurns)
    .innerJoin(defects, eq(defects.id, defectTurns.defectId))
    .where(inArray(defectTurns.turnId, failed));
  const found = new Map<TurnId, HoldingDefect[]>();
  for (const { turnId, code, title, status } of rows) if (isHolding(status)) pushTo(found, turnId, { code, title });
  return found;
}

const isStopped = ({ state, outcome }: TurnRow) => state === 'done' && isTrouble(outcome);

interface HoldingDefect {
  readonly code: string;
  readonly title: string;
}

interface Around {
  readonly names: ReadonlyMap<PersonId, string>;
  readonly defectsAt: ReadonlyMap<TurnId, HoldingDefect[]>;
  /** What was said where a stopped turn stopped. */
  readonly words: ReadonlyMap<TurnId, string>;
  readonly nudged: ReadonlyMap<TurnId, number>;
}

function toTurnCard(head: Head, run: LoadedRun | undefined, { names, defectsAt, nudged, words }: Around): TurnCard {
  const { turn } = head;
  const nameOf = (id: PersonId | null) => (id && names.get(id)) ?? null;
  const holder = run && turn.state === 'waiting' ? findHolder(run, turn) : undefined;
  return {
    id: turn.id,
    title: turn.title,
    test: head.test,
    scenario: { ...head.scenario, rowName: head.rowName },
    cycle: head.cycle,
    leg: turn.index + 1,
    legs: run?.turns.length ?? 0,
    team: head.team,
    assignee: nameOf(turn.assigneeId),
    state: turn.state,
    status: turn.status,
    isRetest: turn.isRetestDue,
    dueOn: turn.dueOn,
    changedAt: (turn.doneAt ?? turn.readyAt)?.toISOString() ?? null,
    arrivals: run ? listArrivals(run, turn.index, nameOf) : [],
    holder: holder
      ? {
          ...{ id: holder.id, nudges: nudged.get(holder.id) ?? 0 },
          title: holder.title,
          person: nameOf(holder.assigneeId),
          status: holder.status,
          dueOn: holder.dueOn,
        }
      : null,
    stoppedBy: isStopped(turn) ? { words: words.get(turn.id) ?? '', defects: defectsAt.get(turn.id) ?? [] } : null,
    minutes: turn.minutes,
    nudges: nudged.get(turn.id) ?? 0,
    heldBy: run && turn.status === 'held' ? describeHold(run, turn, defectsAt, nameOf) : null,
  };
}

/** The turn that has the baton: the first one before this that is not over yet. */
function findHolder(run: LoadedRun, turn: TurnRow): TurnRow | undefined {
  const seen = new Set<number>();
  const visit = (index: number): TurnRow | undefined => {
    const before = run.turns[index];
    if (!before || seen.has(index) || letsOn(before.outcome)) return undefined;
    seen.add(index);
    const earlier = before.state === 'waiting' ? before.after.map(visit).find((found) => found !== undefined) : undefined;
    return earlier ?? before;
  };
  return turn.after.map(visit).find((found) => found !== undefined);
}

function listArrivals(run: LoadedRun, index: number, nameOf: (id: PersonId | null) => string | null): Arrival[] {
  const needs = run.turns[index]?.needs ?? [];
  return resolveNeeds(run.views, index).map(({ name, value }, place) => {
    const source = needs[place]?.source;
    const giver = source?.kind === 'turn' ? run.turns[source.index] : undefined;
    return {
      name,
      value: value ?? null,
      from: giver ? { title: giver.title, leg: giver.index + 1, person: nameOf(giver.assigneeId) } : null,
    };
  });
}

function describeHold(
  run: LoadedRun,
  turn: TurnRow,
  defectsAt: ReadonlyMap<TurnId, HoldingDefect[]>,
  nameOf: (id: PersonId | null) => string | null,
): string {
  const cause = turn.causes[0];
  if (!cause) return 'Held';
  const at = cause.index === null ? undefined : run.turns[cause.index];
  if (cause.kind === 'value') return at ? `${cause.name} did not come from ${at.title}` : `Nothing gives ${cause.name}`;
  const codes = at ? (defectsAt.get(at.id) ?? []).map(({ code }) => code) : [];
  if (codes.length > 0) return `${codes.join(', ')} must be fixed first (${at?.title})`;
  if (!at) return 'Held';
  return cause.outcome === 'failed'
    ? `${at.title} failed, with ${nameOf(at.assigneeId) ?? 'nobody'}`
    : `${at.title} is blocked, with ${nameOf(at.assigneeId) ?? 'nobody'}`;
}
