/**
 * Who does which turn: within a lane, the longest turn first to the person with the least work so far (Graham 1969, list
 * scheduling by longest processing time: never worse than 4/3 − 1/(3m) of the best). Ties go by the order given.
 */
export interface AssignableTurn {
  readonly id: string;
  readonly team: string;
  readonly minutes: number;
}

export interface LanePerson {
  readonly id: string;
  readonly team: string;
  /** Work that the person already has, in minutes. */
  readonly loadMinutes: number;
}

export interface Assignment {
  readonly assigneeOf: ReadonlyMap<string, string>;
  readonly loadOf: ReadonlyMap<string, number>;
  /** Turns of lanes with nobody in them. */
  readonly unassigned: readonly string[];
}

/** Cost O(turns log turns + turns × people of a lane). People in several lanes are listed once for each. */
export function assignTurns(turns: readonly AssignableTurn[], people: readonly LanePerson[]): Assignment {
  const loadOf = new Map(people.map((person) => [person.id, person.loadMinutes]));
  const lanes = new Map<string, string[]>();
  for (const { id, team } of people) lanes.set(team, [...(lanes.get(team) ?? []), id]);
  const assigneeOf = new Map<string, string>();
  const unassigned: string[] = [];
  for (const turn of [...turns].sort((a, b) => b.minutes - a.minutes)) {
    const person = findLeastLoaded(lanes.get(turn.team) ?? [], loadOf);
    if (person === undefined) {
      unassigned.push(turn.id);
      continue;
    }
    assigneeOf.set(turn.id, person);
    loadOf.set(person, (loadOf.get(person) ?? 0) + turn.minutes);
  }
  return { assigneeOf, loadOf, unassigned };
}

function findLeastLoaded(people: readonly string[], loadOf: ReadonlyMap<string, number>): string | undefined {
  let best: string | undefined;
  for (const person of people) {
    if (best === undefined || (loadOf.get(person) ?? 0) < (loadOf.get(best) ?? 0)) best = person;
  }
  return best;
}
