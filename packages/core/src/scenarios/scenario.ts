export const SCENARIO_STATES = ['sketch', 'agreed', 'retired'] as const;
