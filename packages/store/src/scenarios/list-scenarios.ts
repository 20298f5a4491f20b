import type { ScenarioList } from '@kindred-baton/contracts/scenarios/scenario';
import { findFindings } from '@kindred-baton/core/scenarios/findings/rules';
import type { Query } from '../operation.ts';
import { loadTeamNames } from '../programmes/load-team-names.ts';
import type { LoadedScenario } from './load-chains.ts';
import { loadChains } from './load-chains.ts';

/** All scenarios with what their wiring says. Six queries. */
export const listScenarios: Query<void, ScenarioList> = {
  right: 'read',
  read: async (context) => {
    const [{ tree, scenarios }, nameOf] = await Promise.all([loadChains(context), loadTeamNames(context)]);
    return {
      scenarios: scenarios.map((loaded) => {
        const { scenario, legs, rows } = loaded;
        const node = tree.byId.get(scenario.nodeId)?.node;
        return {
          ...{ id: scenario.id, code: scenario.code, name: scenario.name, state: scenario.state, priority: scenario.priority },
          node: { code: node?.code ?? '', name: node?.name ?? '' },
          legs: legs.length,
          openLegs: legs.filter((leg) => leg.test === null).length,
          rows: rows.length,
          teams: [...new Set(legs.flatMap((leg) => (leg.teamId ? [nameOf.get(leg.teamId) ?? ''] : [])))],
          offers: legs.filter(({ newer }) => newer !== null).length,
          ...countFindings(loaded),
        };
      }),
    };
  },
};

export function countFindings({ chain, rows, scenario }: LoadedScenario): { errors: number; warnings: number } {
  const findings = findFindings({ chain, isInOpenCycle: false, data: { rows, classes: scenario.classes } });
  const countOf = (weight: string) => findings.filter((finding) => finding.weight === weight).length;
  return { errors: countOf('error'), warnings: countOf('warning') };
}
