/** What the rows and columns of the progress table can be. Adding one: its name here and its reader in store/src/progress/facets.ts. */
export const FACETS = ['process', 'team', 'person', 'application', 'priority', 'scenario'] as const;
export type FacetName = (typeof FACETS)[number];
