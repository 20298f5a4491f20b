import { eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import { findFindings } from '@kindred-baton/core/scenarios/findings/rules';
import type { ExportedLeg, ExportedScenario } from '@kindred-baton/core/scenarios/scenario-file';
import { toScenarioFile } from '@kindred-baton/core/scenarios/scenario-file';
import { getPath } from '../map/load-tree.ts';
import type { Query } from '../operation.ts';
import { loadTeamNames } from '../programmes/load-team-names.ts';
import { personas } from '../schema/personas.ts';
import { toDocument } from './document.ts';
import { findScenarioId } from './get-scenario.ts';
import type { LoadedLeg } from './load-chains.ts';
import { loadChains } from './load-chains.ts';

/** A scenario with all that its files say: legs in words, tests with their steps, wiring. */
export const loadScenarioToExport: Query<string, ExportedScenario> = {
  right: 'read',
  read: async (context, code) => {
    const id = await findScenarioId(context, code);
    const [{ tree, scenarios }, teamOf, personaRows] = await Promise.all([
      loadChains(context, [id]),
      loadTeamNames(context),
      context.db.select({ id: personas.id, name: personas.name }).from(personas).where(eq(personas.programmeId, context.actor.programmeId)),
    ]);
    const [found] = scenarios;
    if (!found) throw new AppError('not found', `There is no scenario ${code}.`);
    const { scenario, chain } = found;
    const node = tree.byId.get(scenario.nodeId)?.node.code ?? '';
    const teams = [...teamOf].map(([teamId, name]) => ({ id: teamId, name }));
    return {
      file: toScenarioFile(toDocument(found), { code, name: scenario.name, node }, { teams, personas: personaRows }),
      path: getPath(tree, scenario.nodeId).map((entry) => entry.node.name),
      ...{ state: scenario.state, chain },
      findings: findFindings({ chain, isInOpenCycle: false, data: { rows: found.rows, classes: scenario.classes } }),
      legs: found.legs.map((leg) => toExportedLeg(leg, (leg.teamId && teamOf.get(leg.teamId)) ?? null)),
    };
  },
};

function toExportedLeg({ view, test, version }: LoadedLeg, lane: string | null): ExportedLeg {
  return {
    ...{ title: view.title, lane, needs: view.needs, gives: view.gives },
    test:
      test && version
        ? { code: test.code, name: test.name, version: version.number, state: version.state, minutes: test.minutes, steps: version.steps }
        : null,
  };
}
