import { findFindings } from '@kindred-baton/core/scenarios/findings/rules';
import { pinRun } from '@kindred-baton/core/turns/pin-run';
import type { CycleRules } from '@kindred-baton/core/cycles/rules';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import type { RunRow } from '../schema/cycles.ts';
import { hasAgreedTest } from './make-turns.ts';

export interface Obstacle {
  readonly scenario: string;
  readonly message: string;
}

/** What keeps a cycle from being opened with a scenario: broken wiring, open legs, tests not agreed, rows with gaps; by its rules. */
export function findObstacles(loaded: LoadedScenario, runs: readonly Pick<RunRow, 'rowName' | 'values'>[], rules: CycleRules): Obstacle[] {
  const { chain, legs, scenario } = loaded;
  const isRefused = rules.openLegs === 'refused';
  const findings = findFindings({ chain, isInOpenCycle: isRefused }).filter((finding) => finding.weight === 'error');
  const drafts = isRefused ? legs.filter((leg) => leg.test !== null && leg.version?.state !== 'agreed') : [];
  const messages = [
    ...(legs.length === 0 ? ['It has no legs.'] : []),
    ...(rules.onlyAgreedScenarios && scenario.state !== 'agreed'
      ? [`It is a ${scenario.state}; this cycle takes agreed scenarios only.`]
      : []),
    ...findings.map((finding) => finding.message),
    ...drafts.map((leg) => `Test ${leg.test?.code} has no agreed version yet.`),
    ...(rules.openLegs === 'left out' ? findLost(loaded) : []),
    ...findGaps(loaded, runs),
  ];
  return [...new Set(messages)].map((message) => ({ scenario: scenario.code, message }));
}

/** Values that only a leg gives that is left out. */
function findLost({ chain, legs }: LoadedScenario): string[] {
  const indexOf = new Map(chain.legs.map(({ leg, index }) => [leg.id, index]));
  return chain.legs.flatMap(({ index, needs }) =>
    !hasAgreedTest(legs[index])
      ? []
      : needs.flatMap(({ need, source }) => {
          const giver = source.kind === 'leg' ? indexOf.get(source.leg) : undefined;
          return giver === undefined || hasAgreedTest(legs[giver]) || need.required === false
            ? []
            : [`Leg ${index + 1} needs ${need.name} from leg ${giver + 1}, which is left out by the rule for open legs.`];
        }),
  );
}

function findGaps({ chain }: LoadedScenario, runs: readonly Pick<RunRow, 'rowName' | 'values'>[]): string[] {
  const wiredToRow = (leg: number, name: string) =>
    chain.legs[leg]?.needs.some(({ need, source }) => need.name === name && source.kind === 'column') === true;
  return runs.flatMap((run) =>
    pinRun(chain, run.values).flatMap(({ needs }, leg) =>
      needs
        .filter(({ name, source }) => source.kind === 'none' && wiredToRow(leg, name))
        .map(({ name }) => `Data row “${run.rowName ?? 'without a name'}” has no value for ${name}, which leg ${leg + 1} needs.`),
    ),
  );
}
