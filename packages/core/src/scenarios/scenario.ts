export const SCENARIO_STATES = ['sketch', 'agreed', 'retired'] as const;
export type ScenarioState = (typeof SCENARIO_STATES)[number];
