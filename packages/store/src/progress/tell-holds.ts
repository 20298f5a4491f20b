import type { HoldsView, HoldView } from '@kindred-baton/contracts/progress/holds';
import { NONE } from '@kindred-baton/core/progress/facet';
import type { DefectId, NodeId, PersonId, TeamId, TurnId } from '@kindred-baton/core/ids';
import type { Hold } from '@kindred-baton/core/progress/find-holds';
import { pushTo } from '@kindred-baton/core/push-to';
import { inArray } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { loadTeamNames } from '../programmes/load-team-names.ts';
import type { HeldRuns, HeldTurn } from '../runs/load-holds.ts';
import { loadTroubleWords } from '../runs/load-trouble-words.ts';
import { people } from '../schema/people.ts';

/** So many are told by their causes; the rest by team. */
const HOLDS_SHOWN = 40;

export interface HoldScope {
  /** Only turns at these nodes; null: all. */
  readonly nodes: ReadonlySet<NodeId> | null;
  /** Only what holds at this team: its name, NONE for none. */
  readonly team: string | undefined;
}

/** What of the holds is told: those of a branch of the map, and of a team. */
export async function tellHolds(context: ReadContext, held: HeldRuns, { nodes, team }: HoldScope): Promise<HoldsView> {
  const teamNames = await loadTeamNames(context);
  const teamOf = (hold: Hold) => teamNames.get((held.turns.get(hold.at[0] ?? '')?.team ?? '') as TeamId) ?? '';
  const all = scopeHolds(held, nodes).filter((hold) => team === undefined || (teamOf(hold) || NONE) === team);
  const waited = all.filter(({ behind }) => behind.length > 0);
  const [shown, rest] = [waited.slice(0, HOLDS_SHOWN), waited.slice(HOLDS_SHOWN)];
  const [words, names] = await Promise.all([
    loadTroubleWords(context, shown.flatMap(({ kind, at }) => (kind === 'block' ? at.slice(0, 1) : [])) as TurnId[]),
    loadNames(context, shown.flatMap(({ kind, key }) => (kind === 'idle' ? [key] : [])) as PersonId[]),
  ]);
  return {
    holds: shown.map((hold) => toHoldView(hold, held, { words, names, team: teamOf(hold) })),
    held: waited.length,
    quiet: all.length - waited.length,
    moreHolds: sumByTeam(rest, teamOf),
    waitingBehindHolds: new Set(waited.flatMap(({ behind }) => behind)).size,
  };
}

/** The turns that wait behind what holds at each team, each once: as the holds of that team tell it. By the team's id, '' for none. */
export function countWaitingByTeam(held: HeldRuns, nodes: HoldScope['nodes']): ReadonlyMap<string, number> {
  const behind = new Map<string, Set<string>>();
  for (const hold of scopeHolds(held, nodes)) {
    const team = held.turns.get(hold.at[0] ?? '')?.team ?? '';
    const own = behind.get(team) ?? new Set<string>();
    for (const id of hold.behind) own.add(id);
    behind.set(team, own);
  }
  return new Map([...behind].map(([team, own]) => [team, own.size]));
}

/** In a scope, a hold counts the turns of that scope that wait behind it; one with none is left out. */
function scopeHolds({ holds, turns }: HeldRuns, nodes: HoldScope['nodes']): Hold[] {
  if (nodes === null) return [...holds];
  const isIn = (turn: HeldTurn | undefined) => turn !== undefined && nodes.has(turn.nodeId);
  return holds
    .flatMap((hold) => {
      const waiting = hold.behind.flatMap((id) => turns.get(id) ?? []).filter(isIn);
      if (waiting.length === 0 && !hold.at.some((id) => isIn(turns.get(id)))) return [];
      return {
        ...hold,
        behind: waiting.map(({ id }) => id),
        runs: new Set(waiting.map(({ run }) => run)).size,
        teams: new Set(waiting.map(({ team }) => team)).size,
        minutes: waiting.reduce((sum, { minutes }) => sum + minutes, 0),
      };
    })
    .sort((a, b) => b.behind.length - a.behind.length || b.minutes - a.minutes);
}

/** Turns that wait behind several of a team's holds are counted once for it. */
function sumByTeam(holds: readonly Hold[], teamOf: (hold: Hold) => string): HoldsView['moreHolds'] {
  const byTeam = new Map<string, Hold[]>();
  for (const hold of holds) pushTo(byTeam, teamOf(hold), hold);
  return [...byTeam]
    .map(([team, own]) => ({
      ...{ key: team || NONE, team: team || 'No team', holds: own.length },
      waiting: new Set(own.flatMap(({ behind }) => behind)).size,
    }))
    .sort((a, b) => b.waiting - a.waiting || (a.team < b.team ? -1 : 1));
}

async function loadNames({ db }: ReadContext, ids: readonly PersonId[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await db
    .select({ id: people.id, name: people.name })
    .from(people)
    .where(inArray(people.id, [...ids]));
  return new Map(rows.map(({ id, name }) => [id, name]));
}

interface Names {
  readonly words: ReadonlyMap<TurnId, string>;
  readonly names: ReadonlyMap<string, string>;
  readonly team: string;
}

function toHoldView(hold: Hold, { turns, defects }: HeldRuns, { words, names, team }: Names): HoldView {
  const first = turns.get(hold.at[0] ?? '');
  const title = first?.title ?? '';
  const said = first ? (words.get(first.id) ?? '') : '';
  const describe = {
    defect: () => {
      const defect = defects.get(hold.key as DefectId);
      return { title: defect?.title ?? '', detail: `${defect?.code ?? ''} · ${team}` };
    },
    failure: () => ({ title: `${title} failed`, detail: `${team} · no defect logged yet` }),
    block: () => ({ title: `${title} is blocked`, detail: said === '' ? team : `${team} · “${said}”` }),
    idle: () => ({
      title: `Waiting for ${names.get(hold.key) ?? 'nobody'}`,
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
function toOpens({ kind, key }: Hold, defects: HeldRuns['defects']): HoldView['opens'] {
  if (kind === 'idle') return null;
  const code = kind === 'defect' ? defects.get(key as DefectId)?.code : undefined;
  return code === undefined ? { kind: 'turn', id: key as TurnId } : { kind: 'defect', code };
}
