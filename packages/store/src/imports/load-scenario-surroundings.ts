import { and, eq, inArray } from 'drizzle-orm';
import type { ScenarioSurroundings } from '@kindred-baton/core/imports/compare-scenario-file';
import { createId } from '../ids.ts';
import type { ReadContext } from '../operation.ts';
import { personas } from '../schema/personas.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { toDocument } from '../scenarios/document.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import { loadChains } from '../scenarios/load-chains.ts';

/** What scenarios in words are compared with: names, tests, and those that are there under the given codes. Nine queries. */
export async function loadScenarioSurroundings(
  context: Pick<ReadContext, 'db' | 'actor'>,
  codes: readonly string[],
): Promise<ScenarioSurroundings & { readonly loaded: readonly LoadedScenario[] }> {
  const { db, actor } = context;
  const here = actor.programmeId;
  const [teamRows, personaRows, testRows, known] = await Promise.all([
    db.select({ id: teams.id, name: teams.name }).from(teams).where(eq(teams.programmeId, here)),
    db.select({ id: personas.id, name: personas.name }).from(personas).where(eq(personas.programmeId, here)),
    db.select({ code: tests.code, name: tests.name, team: tests.teamId }).from(tests).where(eq(tests.programmeId, here)),
    codes.length === 0
      ? []
      : db
          .select({ id: scenarios.id })
          .from(scenarios)
          .where(and(eq(scenarios.programmeId, here), inArray(scenarios.code, [...codes]))),
  ]);
  const ids = known.map(({ id }) => id);
  const { tree, scenarios: loaded } = ids.length === 0 ? { tree: null, scenarios: [] } : await loadChains(context, ids);
  return {
    ...{ teams: teamRows, personas: personaRows, tests: testRows, loaded, createId: () => createId<'leg'>() },
    scenarios: new Map(
      loaded.map((one) => {
        const node = tree?.byId.get(one.scenario.nodeId)?.node.code ?? '';
        return [one.scenario.code, { name: one.scenario.name, node, document: toDocument(one) }];
      }),
    ),
  };
}
