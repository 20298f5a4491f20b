import type { ComparedLeg, ComparedScenario } from './compare-scenarios.ts';
import type { LegDocument, ScenarioDocument } from './scenario-document.ts';

/** What a scenario is told in: names of teams and personas by id, tests by code. */
export interface ScenarioNameMaps {
  readonly teamOf: ReadonlyMap<string, string>;
  readonly personaOf: ReadonlyMap<string, string>;
  /** With the id of its team. */
  readonly testOf: ReadonlyMap<string, { readonly name: string; readonly team: string | null }>;
}

/** A scenario in words, without ids, to be compared with another. Cost O(legs + rows). */
export function tellScenario(
  { name, document }: { readonly name: string; readonly document: ScenarioDocument },
  words: ScenarioNameMaps,
): ComparedScenario {
  const titleOf = new Map(document.legs.map((leg) => [leg.id, toTitle(leg, words)]));
  return {
    name,
    legs: document.legs.map((leg) => toComparedLeg(leg, words, (id) => titleOf.get(id) ?? 'a leg that is gone')),
    columns: document.columns,
    rows: document.rows,
  };
}

const toTitle = (leg: LegDocument, { testOf }: ScenarioNameMaps) => leg.title ?? testOf.get(leg.test ?? '')?.name ?? leg.test ?? 'Open leg';

function toComparedLeg(leg: LegDocument, words: ScenarioNameMaps, titleOf: (id: string) => string): ComparedLeg {
  const team = leg.team ?? words.testOf.get(leg.test ?? '')?.team ?? null;
  return {
    ...{ test: leg.test, version: leg.version, title: toTitle(leg, words), note: leg.note, waitDays: leg.waitDays },
    team: (team && words.teamOf.get(team)) ?? null,
    persona: (leg.persona && words.personaOf.get(leg.persona)) ?? null,
    wires: leg.wires.map(({ need, from }) => {
      if (from.kind === 'leg') return `${need} from ${titleOf(from.leg)}`;
      return from.kind === 'column'
        ? `${need} from the column ${from.column}`
        : `${need} ${from.kind === 'fixed' ? from.value : from.pattern}`;
    }),
    after: leg.after === null ? ['the leg before it'] : leg.after.map(titleOf),
    people: [
      ...(leg.samePersonAs === null ? [] : [`the same person as ${titleOf(leg.samePersonAs)}`]),
      ...leg.otherPersonThan.map((id) => `never the person of ${titleOf(id)}`),
    ],
    needs: leg.needs.map((field) => field.name),
    gives: leg.gives.map((field) => field.name),
  };
}
