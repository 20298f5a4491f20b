import { pushTo } from '../push-to.ts';

/**
 * Who does which turn: within a lane, the longest turn first to the person with the least work so far (Graham 1969, list
 * scheduling by longest processing time: never worse than 4/3 − 1/(3m) of the best). Ties go by the order given.
 */
export interface AssignableTurn {
  readonly id: string;
  readonly team: string;
  readonly minutes: number;
  /** The turn whose person does this one too. */
  readonly samePersonAs?: string | undefined;
  /** Turns whose person must not do this one (four eyes). */
  readonly otherPersonThan?: readonly string[] | undefined;
}

export interface LanePerson {
  readonly id: string;
  readonly team: string;
  /** Work that the person already has, in minutes. */
  readonly loadMinutes: number;
  /** What she can work until the end, absences left out: loads are compared by their share of it. Without it all are alike. */
  readonly availableMinutes?: number | undefined;
}

export interface Assignment {
  readonly assigneeOf: ReadonlyMap<string, string>;
  readonly loadOf: ReadonlyMap<string, number>;
  /** Turns of lanes with nobody in them, or nobody who may. */
  readonly unassigned: readonly string[];
}

/**
 * Turns that one person is to do together are given as one piece of work; what needs another person passes over those who have the other
 * turn. Cost O(turns log turns + turns × people of a lane). People in several lanes are listed once for each.
 */
export function assignTurns(turns: readonly AssignableTurn[], people: readonly LanePerson[]): Assignment {
  const loadOf = new Map(people.map((person) => [person.id, person.loadMinutes]));
  const lanes = new Map<string, string[]>();
  for (const { id, team, availableMinutes } of people) if (availableMinutes !== 0) pushTo(lanes, team, id);
  const timeOf = new Map(people.map(({ id, availableMinutes }) => [id, availableMinutes ?? 1]));
  const barredOf = listBarred(turns);
  const assigneeOf = new Map<string, string>();
  const unassigned: string[] = [];
  for (const piece of joinPieces(turns)) {
    const barred = new Set(piece.turns.flatMap((id) => (barredOf.get(id) ?? []).flatMap((other) => assigneeOf.get(other) ?? [])));
    const able = (lanes.get(piece.team) ?? []).filter((person) => !barred.has(person));
    const person = findLeastLoaded(able, (id) => ((loadOf.get(id) ?? 0) + piece.minutes) / (timeOf.get(id) ?? 1));
    if (person === undefined) {
      unassigned.push(...piece.turns);
      continue;
    }
    for (const id of piece.turns) assigneeOf.set(id, person);
    loadOf.set(person, (loadOf.get(person) ?? 0) + piece.minutes);
  }
  return { assigneeOf, loadOf, unassigned };
}

interface Piece {
  readonly team: string;
  readonly turns: string[];
  minutes: number;
}

/** The longest first. A turn of another lane than the one it names goes on its own. */
function joinPieces(turns: readonly AssignableTurn[]): Piece[] {
  const byId = new Map(turns.map((turn) => [turn.id, turn]));
  const pieces = new Map<string, Piece>();
  for (const turn of turns) {
    const root = findRoot(turn, byId);
    const piece = pieces.get(root.id);
    if (piece) {
      piece.turns.push(turn.id);
      piece.minutes += turn.minutes;
    } else pieces.set(root.id, { team: turn.team, turns: [turn.id], minutes: turn.minutes });
  }
  return [...pieces.values()].sort((a, b) => b.minutes - a.minutes);
}

function findRoot(turn: AssignableTurn, byId: ReadonlyMap<string, AssignableTurn>): AssignableTurn {
  let root = turn;
  const seen = new Set([turn.id]);
  for (;;) {
    const next = root.samePersonAs === undefined ? undefined : byId.get(root.samePersonAs);
    if (!next || next.team !== turn.team || seen.has(next.id)) return root;
    seen.add(next.id);
    root = next;
  }
}

function listBarred(turns: readonly AssignableTurn[]): Map<string, string[]> {
  const barredOf = new Map<string, string[]>();
  for (const { id, otherPersonThan = [] } of turns) {
    for (const other of otherPersonThan) {
      pushTo(barredOf, id, other);
      pushTo(barredOf, other, id);
    }
  }
  return barredOf;
}

function findLeastLoaded(people: readonly string[], loadWith: (person: string) => number): string | undefined {
  let best: string | undefined;
  for (const person of people) if (best === undefined || loadWith(person) < loadWith(best)) best = person;
  return best;
}
