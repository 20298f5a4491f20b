import type { LegProposals } from '@kindred-baton/contracts/scenarios/reuse';
import type { LegId } from '@kindred-baton/core/ids';
import { proposeTests } from '@kindred-baton/core/scenarios/propose-tests';
import type { Query } from '../operation.ts';
import { loadTeamNames } from '../programmes/load-team-names.ts';
import { findScenarioId } from './get-scenario.ts';
import { loadChains } from './load-chains.ts';
import { loadLibrary } from './load-library.ts';

/** For each open leg the tests of the library that fit it, best first, with what speaks for them. */
export const proposeForLegs: Query<string, LegProposals> = {
  right: 'read',
  read: async (context, code) => {
    const id = await findScenarioId(context, code);
    const [{ scenarios: loaded }, library, nameOf] = await Promise.all([
      loadChains(context, [id]),
      loadLibrary(context),
      loadTeamNames(context),
    ]);
    const open = loaded[0]?.legs.filter(({ test }) => test === null) ?? [];
    return {
      legs: open.map(({ row, view, teamId }) => ({
        leg: row.id as LegId,
        proposals: proposeTests({ ...view, team: (teamId && nameOf.get(teamId)) ?? null }, library).map((proposal) => ({
          ...proposal,
          reasons: [...proposal.reasons],
        })),
      })),
    };
  },
};
