import { findFindings } from '@kindred-baton/core/scenarios/findings/rules';
import { pinRun } from '@kindred-baton/core/cycles/pin-run';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import type { RunRow } from '../schema/cycles.ts';

export interface Obstacle {
  readonly scenario: string;
  readonly message: string;
}

/** What keeps a cycle from being opened with a scenario: broken wiring, open legs, tests not agreed, rows with gaps. */
export function findObstacles(loaded: LoadedScenario, runs: readonly Pick<RunRow, 'rowName' | 'values'>[]): Obstacle[] {
  const { chain, legs, scenario } = loaded;
  const findings = findFindings({ chain, isInOpenCycle: true }).filter((finding) => finding.weight === 'error');
  const drafts = legs.filter((leg) => leg.test !== null && leg.version?.state !== 'agreed');
  const messages = [
    ...(legs.length === 0 ? ['It has no legs.'] : []),
    ...findings.map((finding) => finding.message),
    ...drafts.map((leg) => `Test ${leg.test?.code} has no agreed version yet.`),
    ...findGaps(loaded, runs),
  ];
  return [...new Set(messages)].map((message) => ({ scenario: scenario.code, message }));
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
