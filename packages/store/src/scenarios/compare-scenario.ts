import { and, desc, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ComparisonView, ScenarioStates } from '@kindred-baton/contracts/scenarios/reuse';
import type { ComparedLeg, ComparedScenario, LegDifference } from '@kindred-baton/core/scenarios/compare-scenarios';
import { compareScenarios } from '@kindred-baton/core/scenarios/compare-scenarios';
import type { LegDocument, ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import type { Query, ReadContext } from '../operation.ts';
import { loadTeamNames } from '../programmes/load-team-names.ts';
import { people } from '../schema/people.ts';
import { personas } from '../schema/personas.ts';
import { scenarioStates } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { toDocument } from './document.ts';
import { findScenarioId } from './get-scenario.ts';
import { loadChains } from './load-chains.ts';

const MOST_SHOWN = 100;

/** What was kept of a scenario: its states after each sitting, the newest first. */
export const listScenarioStates: Query<string, ScenarioStates> = {
  right: 'read',
  read: async (context, code) => {
    const id = await findScenarioId(context, code);
    const rows = await context.db
      .select({ id: scenarioStates.id, savedAt: scenarioStates.savedAt, by: people.name, document: scenarioStates.document })
      .from(scenarioStates)
      .leftJoin(people, eq(people.id, scenarioStates.savedBy))
      .where(eq(scenarioStates.scenarioId, id))
      .orderBy(desc(scenarioStates.id))
      .limit(MOST_SHOWN);
    return {
      states: rows.map(({ document, savedAt, ...row }) => ({
        ...row,
        savedAt: savedAt.toISOString(),
        legs: document.legs.length,
        rows: document.rows.length,
      })),
    };
  },
};

interface CompareInput {
  readonly code: string;
  readonly with?: string | undefined;
  readonly state?: number | undefined;
}

/** A scenario beside another one, or beside an earlier state of itself. */
export const compareScenario: Query<CompareInput, ComparisonView> = {
  right: 'read',
  read: async (context, { code, with: other, state }) => {
    const [words, now] = await Promise.all([loadWords(context), loadNow(context, code)]);
    const compared = other === undefined ? await loadState(context, code, state) : await loadNow(context, other);
    // Another scenario stands at the left of this one; an earlier state does too.
    const found = compareScenarios(toCompared(compared, words), toCompared(now, words));
    return {
      ...{ before: compared.name, after: now.name, data: [...found.data], isSame: found.isSame },
      legs: found.legs.map(toLegView),
    };
  },
};

export function toLegView(row: LegDifference): ComparisonView['legs'][number] {
  const toSide = (side: { readonly index: number; readonly item: ComparedLeg } | undefined) =>
    side ? { index: side.index + 1, title: side.item.title, test: side.item.test, team: side.item.team } : null;
  return {
    kind: row.kind,
    before: toSide('before' in row ? row.before : undefined),
    after: toSide('after' in row ? row.after : undefined),
    changes: [...row.changes],
  };
}

interface NamedDocument {
  readonly name: string;
  readonly document: ScenarioDocument;
}

async function loadNow(context: ReadContext, code: string): Promise<NamedDocument> {
  const { scenarios } = await loadChains(context, [await findScenarioId(context, code)]);
  const [found] = scenarios;
  if (!found) throw new AppError('not found', `There is no scenario ${code}.`);
  return { name: found.scenario.name, document: toDocument(found) };
}

async function loadState(context: ReadContext, code: string, state: number | undefined): Promise<NamedDocument> {
  if (state === undefined) throw new AppError('invalid', 'Say what to compare with: another scenario, or an earlier state.');
  const id = await findScenarioId(context, code);
  const [row] = await context.db
    .select()
    .from(scenarioStates)
    .where(and(eq(scenarioStates.id, state), eq(scenarioStates.scenarioId, id)));
  if (!row) throw new AppError('not found', `Scenario ${code} has no such earlier state.`);
  return { name: 'As it was', document: row.document };
}

interface Words {
  readonly teamOf: ReadonlyMap<string, string>;
  readonly personaOf: ReadonlyMap<string, string>;
  readonly testOf: ReadonlyMap<string, { readonly name: string; readonly teamId: string | null }>;
}

export async function loadWords(context: Pick<ReadContext, 'db' | 'actor'>): Promise<Words> {
  const { db, actor } = context;
  const [teamOf, personaRows, testRows] = await Promise.all([
    loadTeamNames(context),
    db.select({ id: personas.id, name: personas.name }).from(personas).where(eq(personas.programmeId, actor.programmeId)),
    db.select({ code: tests.code, name: tests.name, teamId: tests.teamId }).from(tests).where(eq(tests.programmeId, actor.programmeId)),
  ]);
  return {
    teamOf,
    personaOf: new Map(personaRows.map(({ id, name }) => [id, name])),
    testOf: new Map(testRows.map(({ code, ...test }) => [code, test])),
  };
}

export function toCompared({ name, document }: NamedDocument, words: Words): ComparedScenario {
  const titleOf = new Map(document.legs.map((leg) => [leg.id, toTitle(leg, words)]));
  return {
    name,
    legs: document.legs.map((leg) => toComparedLeg(leg, words, (id) => titleOf.get(id) ?? 'a leg that is gone')),
    columns: document.columns,
    rows: document.rows,
  };
}

const toTitle = (leg: LegDocument, { testOf }: Words) => leg.title ?? testOf.get(leg.test ?? '')?.name ?? leg.test ?? 'Open leg';

function toComparedLeg(leg: LegDocument, words: Words, titleOf: (id: string) => string): ComparedLeg {
  const team = leg.team ?? words.testOf.get(leg.test ?? '')?.teamId ?? null;
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
