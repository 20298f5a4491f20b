import type { Priority } from '../values/priority.ts';
import { PRIORITIES } from '../values/priority.ts';
import type { Standing } from '../standing.ts';
import { getStandingLabel, isStanding, STANDINGS } from '../standing.ts';
import type { RunBy, VersionState } from './version.ts';
import { RUN_BY, VERSION_STATES } from './version.ts';

/** What the facets of the library look at. */
export interface FacetedTest {
  readonly team: string | null;
  readonly application: string | null;
  readonly state: VersionState;
  readonly priority: Priority;
  readonly runBy: RunBy;
  readonly standing: { readonly standing: Standing } | null;
  readonly tags: readonly string[];
  readonly usedIn: number;
  readonly serves: number;
}

interface Facet {
  readonly label: string;
  readonly read: (test: FacetedTest) => readonly string[];
  /** The order of its values; by name where absent. */
  readonly order?: readonly string[];
  readonly nameOf?: (key: string) => string;
}

const NONE = 'none';
const SOME = 'some';

/** Adding a facet: a line here. Its key is its name in the address. */
export const TEST_FACETS = {
  team: { label: 'Team', read: ({ team }) => [team ?? NONE], nameOf: (key) => (key === NONE ? 'no team' : key) },
  application: {
    label: 'Application',
    read: ({ application }) => [application ?? NONE],
    nameOf: (key) => (key === NONE ? 'no application' : key),
  },
  state: { label: 'State', read: ({ state }) => [state], order: VERSION_STATES },
  priority: { label: 'Priority', read: ({ priority }) => [priority], order: PRIORITIES },
  runBy: { label: 'Done by', read: ({ runBy }) => [runBy], order: RUN_BY, nameOf: (key) => (key === 'hand' ? 'people' : 'runners') },
  stands: {
    label: 'How it stands',
    read: ({ standing }) => [standing?.standing ?? NONE],
    order: [...STANDINGS, NONE],
    nameOf: (key) => (key === NONE ? 'in no cycle yet' : isStanding(key) ? getStandingLabel(key) : key),
  },
  tag: { label: 'Tag', read: ({ tags }) => tags },
  used: {
    label: 'Scenarios',
    read: ({ usedIn }) => [usedIn > 0 ? SOME : NONE],
    order: [SOME, NONE],
    nameOf: (key) => (key === SOME ? 'in a scenario' : 'in none'),
  },
  serves: {
    label: 'Requirements',
    read: ({ serves }) => [serves > 0 ? SOME : NONE],
    order: [SOME, NONE],
    nameOf: (key) => (key === SOME ? 'serves one' : 'serves none'),
  },
} as const satisfies Readonly<Record<string, Facet>>;

export type TestFacet = keyof typeof TEST_FACETS;
export const TEST_FACET_NAMES = Object.keys(TEST_FACETS) as [TestFacet, ...TestFacet[]];

/** For each facet the values that a test may have; an empty list asks for nothing. */
export type FacetChoice = Partial<Record<TestFacet, readonly string[]>>;

interface FacetCount {
  readonly key: string;
  readonly name: string;
  readonly count: number;
}

export interface FacetResult<Test> {
  readonly found: readonly Test[];
  /** For each facet its values with the tests that would be found by it and by what the others ask for. */
  readonly counts: Readonly<Record<TestFacet, readonly FacetCount[]>>;
}

/** Filters by facets and counts each facet as if it were not asked for itself. Cost O(tests × facets). */
export function facetTests<Test extends FacetedTest>(tests: readonly Test[], choice: FacetChoice): FacetResult<Test> {
  const facets = TEST_FACET_NAMES.map((name) => ({ name, facet: TEST_FACETS[name] as Facet, wanted: new Set(choice[name] ?? []) }));
  const counts = facets.map(() => new Map<string, number>());
  const values: (readonly string[])[] = [];
  const found: Test[] = [];
  for (const test of tests) {
    let missed = 0;
    let missedAt = -1;
    for (let at = 0; at < facets.length; at += 1) {
      const { facet, wanted } = facets[at] as (typeof facets)[number];
      const own = facet.read(test);
      values[at] = own;
      if (wanted.size === 0 || own.some((value) => wanted.has(value))) continue;
      missed += 1;
      missedAt = at;
    }
    if (missed === 0) found.push(test);
    if (missed > 1) continue;
    for (let at = 0; at < facets.length; at += 1) {
      if (missed === 1 && at !== missedAt) continue;
      const count = counts[at] as Map<string, number>;
      for (const value of values[at] ?? []) count.set(value, (count.get(value) ?? 0) + 1);
    }
  }
  const entries = facets.map(({ name, facet, wanted }, at) => [name, toCounts(facet, wanted, counts[at] ?? new Map())] as const);
  return { found, counts: Object.fromEntries(entries) as unknown as FacetResult<Test>['counts'] };
}

/** A value that is asked for is told even where nothing has it. */
function toCounts({ order, nameOf = (key) => key }: Facet, wanted: ReadonlySet<string>, counts: ReadonlyMap<string, number>): FacetCount[] {
  const keys = [...new Set([...counts.keys(), ...wanted])];
  const rank = (key: string) => order?.indexOf(key) ?? 0;
  return keys
    .sort((a, b) => rank(a) - rank(b) || a.localeCompare(b))
    .map((key) => ({ key, name: nameOf(key), count: counts.get(key) ?? 0 }));
}
