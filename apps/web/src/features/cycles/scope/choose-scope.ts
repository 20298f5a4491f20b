import type { CycleScope, FormerRuns, ScopeItem } from '@kindred-baton/contracts/cycles/cycle';

/** Chosen scenarios, each with its chosen data rows (none: one run without a row). */
export type Chosen = ReadonlyMap<string, ReadonlySet<string>>;
type Scenario = CycleScope['scenarios'][number];

export interface ScopeFilter {
  readonly words: string;
  readonly state: string;
  readonly priority: string;
  readonly requirement: string;
}

export const NO_FILTER: ScopeFilter = { words: '', state: '', priority: '', requirement: '' };

/** The scenarios that meet a filter. Cost O(scenarios × their requirements). */
export function filterScenarios(scenarios: readonly Scenario[], filter: ScopeFilter, isIn: (scenario: Scenario) => boolean): Scenario[] {
  const words = filter.words.trim().toLowerCase();
  return scenarios.filter(
    (scenario) =>
      isIn(scenario) &&
      (words === '' || `${scenario.code} ${scenario.name} ${scenario.node.name}`.toLowerCase().includes(words)) &&
      (filter.state === '' || scenario.state === filter.state) &&
      (filter.priority === '' || scenario.priority === filter.priority) &&
      (filter.requirement === '' || scenario.requirements.includes(filter.requirement)),
  );
}

export type FormerPart = 'failed' | 'not run' | 'all';

const IS_PART: Readonly<Record<FormerPart, (run: FormerRuns['runs'][number]) => boolean>> = {
  failed: ({ outcome }) => outcome === 'failed' || outcome === 'blocked',
  'not run': ({ outcome, isLeftToNext }) => isLeftToNext || outcome === 'not run' || outcome === 'under way',
  all: () => true,
};

/** The runs of a former cycle, as far as their scenarios and rows are still there. */
export function chooseFormer(scenarios: readonly Scenario[], { runs }: FormerRuns, part: FormerPart): Chosen {
  const byId = new Map(scenarios.map((scenario) => [scenario.id, scenario]));
  const chosen = new Map<string, Set<string>>();
  for (const run of runs) {
    const scenario = byId.get(run.scenarioId);
    if (!scenario || scenario.legs === 0 || !IS_PART[part](run)) continue;
    const rows = chosen.get(run.scenarioId) ?? chosen.set(run.scenarioId, new Set()).get(run.scenarioId)!;
    if (run.rowId !== null && scenario.rows.some(({ id }) => id === run.rowId)) rows.add(run.rowId);
  }
  return chosen;
}

const rowsOf = (scenario: Scenario) => new Set(scenario.rows.map(({ id }) => id as string));

/** Scenarios that can be run are taken in with all their rows, or out; what is not among them stays as it is chosen. */
export function chooseScenarios(chosen: Chosen, scenarios: readonly Scenario[], isIn: boolean): Chosen {
  const next = new Map(chosen);
  for (const scenario of scenarios) {
    if (!isIn) next.delete(scenario.id);
    else if (scenario.legs > 0) next.set(scenario.id, rowsOf(scenario));
  }
  return next;
}

/** Whether all of them that can be run are in. */
export function areAllIn(chosen: Chosen, scenarios: readonly Scenario[]): boolean {
  const runnable = scenarios.filter(({ legs }) => legs > 0);
  return runnable.length > 0 && runnable.every(({ id }) => chosen.has(id));
}

/** One data row is taken in or out; without its last row a scenario is out. */
export function chooseRow(chosen: Chosen, scenarioId: string, rowId: string, isIn: boolean): Chosen {
  const rows = new Set(chosen.get(scenarioId) ?? []);
  if (isIn) rows.add(rowId);
  else rows.delete(rowId);
  const next = new Map(chosen);
  if (rows.size > 0) next.set(scenarioId, rows);
  else next.delete(scenarioId);
  return next;
}

export interface ScopeSize {
  readonly runs: number;
  readonly turns: number;
  readonly minutes: number;
}

export function measureChosen(scenarios: readonly Scenario[], chosen: Chosen): ScopeSize {
  return scenarios.reduce(
    (sum, scenario) => {
      const runs = chosen.has(scenario.id) ? Math.max(1, chosen.get(scenario.id)?.size ?? 0) : 0;
      return { runs: sum.runs + runs, turns: sum.turns + runs * scenario.legs, minutes: sum.minutes + runs * scenario.minutes };
    },
    { runs: 0, turns: 0, minutes: 0 },
  );
}

export function toScopeItems(chosen: Chosen): ScopeItem[] {
  return [...chosen].map(([scenarioId, rowIds]) => ({ scenarioId, rowIds: [...rowIds] })) as ScopeItem[];
}
