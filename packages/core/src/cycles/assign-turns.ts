import { pushTo } from '../push-to.ts';
import { KeepApart } from './keep-apart.ts';

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
  /** People who must not do it, since they have or had what another is to check. */
  readonly notBy?: readonly string[] | undefined;
  /** Whoever has or had what the same person is to go on with; it goes to nobody else while she is of the lane. */
  readonly onlyBy?: string | undefined;
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
 * Turns that one person is to do together are given as one piece of work; what needs another person goes so that somebody is left for
 * the other turn too (keep-apart.ts). Cost O(turns log turns + turns × people of a lane). People in several lanes are listed once for each.
 */
export function assignTurns(turns: readonly AssignableTurn[], people: readonly LanePerson[]): Assignment {
  const loadOf = new Map(people.map((person) => [person.id, person.loadMinutes]));
  const ids = [...loadOf.keys()];
  const timeOf = new Map(people.map(({ id, availableMinutes }) => [id, availableMinutes ?? 1]));
  const pieces = joinPieces(turns);
  const able = listAble(pieces, people, new Map(ids.map((id, index) => [id, index])));
  const keeper = new KeepApart({ able, apart: listApart(pieces), given: pieces.map(() => -1) });
  const assigneeOf = new Map<string, string>();
  const unassigned: string[] = [];
  pieces.forEach((piece, index) => {
    const may = able[index]!.filter((person) => keeper.may(index, person));
    const chosen = findLeastLoaded(may, (person) => ((loadOf.get(ids[person]!) ?? 0) + piece.minutes) / (timeOf.get(ids[person]!) ?? 1));
    if (chosen === undefined) return void unassigned.push(...piece.turns.map(({ id }) => id));
    keeper.give(index, chosen);
    const person = ids[chosen]!;
    for (const { id } of piece.turns) assigneeOf.set(id, person);
    loadOf.set(person, (loadOf.get(person) ?? 0) + piece.minutes);
  });
  return { assigneeOf, loadOf, unassigned };
}

interface Piece {
  readonly team: string;
  readonly turns: AssignableTurn[];
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
      piece.turns.push(turn);
      piece.minutes += turn.minutes;
    } else pieces.set(root.id, { team: turn.team, turns: [turn], minutes: turn.minutes });
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

/** By piece: the people of its lane who have any time, and may do all of it. */
function listAble(pieces: readonly Piece[], people: readonly LanePerson[], indexOf: ReadonlyMap<string, number>): number[][] {
  const lanes = new Map<string, number[]>();
  for (const { id, team, availableMinutes } of people) if (availableMinutes !== 0) pushTo(lanes, team, indexOf.get(id)!);
  return pieces.map(({ team, turns }) => {
    const lane = lanes.get(team) ?? [];
    const not = new Set(turns.flatMap(({ notBy = [] }) => notBy.flatMap((id) => indexOf.get(id) ?? [])));
    const only = turns.flatMap(({ onlyBy }) => (onlyBy === undefined ? [] : (indexOf.get(onlyBy) ?? []))).find((id) => lane.includes(id));
    return only === undefined ? lane.filter((person) => !not.has(person)) : [only];
  });
}

function listApart(pieces: readonly Piece[]): number[][] {
  const pieceOf = new Map(pieces.flatMap(({ turns }, index) => turns.map(({ id }) => [id, index] as const)));
  const apart: number[][] = pieces.map(() => []);
  pieces.forEach(({ turns }, index) => {
    for (const other of turns.flatMap(({ otherPersonThan = [] }) => otherPersonThan.flatMap((id) => pieceOf.get(id) ?? []))) {
      apart[index]!.push(other);
      apart[other]!.push(index);
    }
  });
  return apart;
}

function findLeastLoaded(people: readonly number[], loadWith: (person: number) => number): number | undefined {
  let best: number | undefined;
  for (const person of people) if (best === undefined || loadWith(person) < loadWith(best)) best = person;
  return best;
}
