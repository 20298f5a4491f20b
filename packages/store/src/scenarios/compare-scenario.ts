import { and, desc, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ComparisonView, ScenarioStates } from '@kindred-baton/contracts/scenarios/reuse';
import { compareScenarios, toComparisonLines } from '@kindred-baton/core/scenarios/compare-scenarios';
import type { ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import type { ScenarioNameMaps } from '@kindred-baton/core/scenarios/tell-scenario';
import { tellScenario } from '@kindred-baton/core/scenarios/tell-scenario';
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
    const found = compareScenarios(tellScenario(compared, words), tellScenario(now, words));
    return {
      ...{ before: compared.name, after: now.name, data: [...found.data], isSame: found.isSame },
      legs: toComparisonLines(found.legs),
    };
  },
};

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

async function loadWords(context: Pick<ReadContext, 'db' | 'actor'>): Promise<ScenarioNameMaps> {
  const { db, actor } = context;
  const [teamOf, personaRows, testRows] = await Promise.all([
    loadTeamNames(context),
    db.select({ id: personas.id, name: personas.name }).from(personas).where(eq(personas.programmeId, actor.programmeId)),
    db.select({ code: tests.code, name: tests.name, team: tests.teamId }).from(tests).where(eq(tests.programmeId, actor.programmeId)),
  ]);
  return {
    teamOf,
    personaOf: new Map(personaRows.map(({ id, name }) => [id, name])),
    testOf: new Map(testRows.map(({ code, ...test }) => [code, test])),
  };
}
