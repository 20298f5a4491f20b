interface FacetFacts {
  readonly word: string;
  /** The filter of the list of turns that opens what a row or column counts. */
  readonly filter: string;
  /** How the filter is said. */
  readonly says: (value: string) => string;
  /** What the value of a row or column is taken apart by, once it was chosen; null: its turns are listed. */
  readonly opens: string | null;
}

/** In a filter: turns that have no value there. */
export const NONE = '-';

const says =
  (some: string, none = some) =>
  (value: string) =>
    value === NONE ? none : `${some} ${value}`;

/**
 * What the rows and columns of the progress table can be. Another facet is a row here, and its reader and its filter in a file of store/src/turns/facets,
 * which does not compile without it.
 */
const FACET_FACTS = {
  process: { word: 'Process', filter: 'node', says: says('at'), opens: 'process' },
  team: { word: 'Team', filter: 'team', says: says('by', 'by no team'), opens: 'person' },
  person: { word: 'Person', filter: 'person', says: says('with', 'with nobody'), opens: 'process' },
  application: { word: 'Application', filter: 'application', says: says('in', 'in no application'), opens: 'process' },
  priority: { word: 'Priority', filter: 'priority', says: says('priority'), opens: 'scenario' },
  scenario: { word: 'Scenario', filter: 'scenario', says: says('of scenario'), opens: null },
  test: { word: 'Test', filter: 'test', says: says('of test', 'of open legs'), opens: null },
  tag: { word: 'Tag', filter: 'tag', says: says('tagged', 'without a tag'), opens: 'test' },
  requirement: { word: 'Kind of requirement', filter: 'kind', says: says('for requirements of kind', 'for no requirement'), opens: 'test' },
  criticality: { word: 'Criticality', filter: 'criticality', says: (value) => `at ${value} processes`, opens: 'process' },
  due: { word: 'Due day', filter: 'due', says: says('due on', 'without a due day'), opens: 'team' },
  ended: { word: 'Day it ended', filter: 'ended', says: says('ended on', 'not ended yet'), opens: 'team' },
  hands: { word: 'Runner or person', filter: 'hands', says: says('last tried by a', 'not tried yet'), opens: 'team' },
  cycle: { word: 'Cycle', filter: 'cycle', says: says('in'), opens: 'process' },
  purpose: { word: 'Purpose', filter: 'purpose', says: says('in cycles of'), opens: 'cycle' },
} as const satisfies Readonly<Record<string, FacetFacts>>;
export type FacetName = keyof typeof FACET_FACTS;
export type FacetFilter = (typeof FACET_FACTS)[FacetName]['filter'];
export const FACETS = Object.keys(FACET_FACTS) as [FacetName, ...FacetName[]];
export const getFacetLabel = (facet: FacetName): string => FACET_FACTS[facet].word;
export const getFacetFilter = (facet: FacetName): FacetFilter => FACET_FACTS[facet].filter;
export const FACET_FILTERS = FACETS.map(getFacetFilter);

const OTHERWISE = ['process', 'scenario'] as const;

/** What a row or column is taken apart by after it was chosen, beside the other facet of the table; null: by nothing, its turns are listed. */
export function getNextFacet(facet: FacetName, beside: FacetName): FacetName | null {
  const next = FACET_FACTS[facet].opens;
  return next === beside ? (OTHERWISE.find((each) => each !== beside) ?? null) : next;
}

/** Each filter as a screen says it: “by Billing”, “with nobody”. */
export const FACET_SAYINGS = Object.fromEntries(FACETS.map((facet) => [FACET_FACTS[facet].filter, FACET_FACTS[facet].says])) as Readonly<
  Record<FacetFilter, (value: string) => string>
>;
