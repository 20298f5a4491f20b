interface FacetFacts {
  readonly word: string;
  /** The filter of the list of turns that opens what a row or column counts. */
  readonly filter: string;
}

/**
 * What the rows and columns of the progress table can be. Another facet is a row here, and its column, names and filter in store/src/turns/facets.ts, which
 * does not compile without them.
 */
const FACET_FACTS = {
  process: { word: 'Process', filter: 'node' },
  team: { word: 'Team', filter: 'team' },
  person: { word: 'Person', filter: 'person' },
  application: { word: 'Application', filter: 'application' },
  priority: { word: 'Priority', filter: 'priority' },
  scenario: { word: 'Scenario', filter: 'scenario' },
} as const satisfies Readonly<Record<string, FacetFacts>>;
export type FacetName = keyof typeof FACET_FACTS;
export type FacetFilter = (typeof FACET_FACTS)[FacetName]['filter'];
export const FACETS = Object.keys(FACET_FACTS) as [FacetName, ...FacetName[]];
export const getFacetLabel = (facet: FacetName): string => FACET_FACTS[facet].word;
export const getFacetFilter = (facet: FacetName): FacetFilter => FACET_FACTS[facet].filter;
