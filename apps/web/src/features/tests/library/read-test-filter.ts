import { TEST_FACET_NAMES } from '@kindred-baton/core/tests/facets';

const NAMES = ['q', 'scope', 'sort', ...TEST_FACET_NAMES];

/** What a library's address asks for, as the query of the API. */
export function toFilterQuery(get: (name: string) => string | null): Record<string, string> {
  return Object.fromEntries(
    NAMES.flatMap((name) => {
      const value = get(name);
      return value === null || value === '' ? [] : [[name, value]];
    }),
  );
}
