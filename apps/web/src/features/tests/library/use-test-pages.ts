import { toKey, useRead } from '../../../client/use-read.ts';
import { call } from '../../../client/call.ts';
import type { TestList, TestListItem } from '@kindred-baton/contracts/tests/library';
import { keepPreviousData, useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { toFilterQuery } from './read-test-filter.ts';

/** As many as the server gives at once (contracts: TESTS_A_PAGE). */
const TESTS_A_PAGE = 100;

export interface TestPages {
  readonly list: TestList;
  /** Undefined while its page is on the way. */
  readonly at: (index: number) => TestListItem | undefined;
  /** Tells which rows are looked at, so that their pages are asked for. */
  readonly look: (from: number, to: number) => void;
  readonly query: Readonly<Record<string, string>>;
}

/** A view of the library, a page at a time: only what is looked at is asked for. */
export function useTestPages(initial: TestList): TestPages {
  const { api } = useProgramme();
  const { get } = useAddress();
  const query = toFilterQuery(get);
  const search = new URLSearchParams(query).toString();
  const [first] = useState(search);
  const [looked, setLooked] = useState<readonly number[]>([]);
  const toGiven = (page: number) => ({ input: { ...query, page } });
  const { data: list } = useRead('listTests', toGiven(0), {
    placeholderData: keepPreviousData,
    ...(search === first ? { initialData: initial } : {}),
  });
  const shown = list ?? initial;
  const pages = looked.filter((page) => page > 0 && page * TESTS_A_PAGE < shown.total);
  const more = useQueries({
    queries: pages
      .map(toGiven)
      .map((given) => ({ queryKey: toKey('listTests', given), queryFn: ({ signal }) => call(api, 'listTests', given, signal) })),
  });
  const byPage = new Map<number, TestList>([[0, shown]]);
  pages.forEach((page, index) => {
    const data = more[index]?.data;
    if (data) byPage.set(page, data);
  });
  const look = (from: number, to: number) => {
    const wanted = [];
    for (let page = Math.floor(from / TESTS_A_PAGE); page <= Math.floor(to / TESTS_A_PAGE); page += 1) wanted.push(page);
    if (wanted.join() !== looked.join()) setLooked(wanted);
  };
  return { list: shown, query, look, at: (index) => byPage.get(Math.floor(index / TESTS_A_PAGE))?.tests[index % TESTS_A_PAGE] };
}
