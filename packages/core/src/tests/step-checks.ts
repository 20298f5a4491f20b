interface CheckFacts {
  /** Whether it compares with a value. */
  readonly takesValue: boolean;
  /** How it is called where it is chosen. */
  readonly label: string;
}

/** What can be said of a thing that is seen, besides that it is there or shows a value; the words stand in the sentence. A row here is all that another takes. */
const CHECK_FACTS = {
  'not there': { takesValue: false, label: 'is not there' },
  'not showing': { takesValue: true, label: 'does not show' },
  containing: { takesValue: true, label: 'contains' },
  'at least': { takesValue: true, label: 'is at least' },
  'at most': { takesValue: true, label: 'is at most' },
  counting: { takesValue: true, label: 'there are so many' },
  'with headings': { takesValue: true, label: 'has the headings' },
  'all different': { takesValue: false, label: 'are all different' },
  'none empty': { takesValue: false, label: 'none is empty' },
} as const satisfies Readonly<Record<string, CheckFacts>>;
export type StepCheck = keyof typeof CHECK_FACTS;
export const STEP_CHECKS = Object.keys(CHECK_FACTS) as [StepCheck, ...StepCheck[]];
export const getCheckFacts = (check: StepCheck): CheckFacts => CHECK_FACTS[check];

/** The longest that a step waits for what should be seen. */
export const MOST_SECONDS = 600;
