/** What is decided when the end of a cycle is in doubt: more people, less scope, quicker repairs, later, or nothing of these. */
const DECISION_FACTS = {
  person: { word: 'More people' },
  'leave out': { word: 'Less scope' },
  repair: { word: 'Quicker repairs' },
  later: { word: 'Later' },
  stay: { word: 'Nothing is changed' },
} as const;
export type DecisionKind = keyof typeof DECISION_FACTS;
export const DECISION_KINDS = Object.keys(DECISION_FACTS) as [DecisionKind, ...DecisionKind[]];
export const getDecisionLabel = (kind: DecisionKind): string => DECISION_FACTS[kind].word;

/** What a forecast said: the days by which half of the ends lie and 85 of 100, null: later than was looked at; the share of ends that are in time. */
export interface Odds {
  readonly even: string | null;
  readonly late: string | null;
  readonly inTime: number;
}
