import type { UseQueryOptions, UseQueryResult } from '@tanstack/react-query';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useProgramme } from '../features/frame/programme-context.tsx';
import type { RouteName } from '@kindred-baton/contracts/routes';
import type { Given, Output } from './call.ts';
import { useNotice } from '../ui/notices.tsx';
import { call } from './call.ts';
import { toMessage } from './request.ts';

export type ReadOptions<Name extends RouteName> = Pick<
  UseQueryOptions<Output<Name>>,
  'initialData' | 'enabled' | 'retry' | 'placeholderData' | 'refetchInterval' | 'staleTime'
> & {
  /** What else it waits for, before it asks. */
  readonly after?: () => Promise<unknown>;
  /** What else its answer depends on: another value is another question. */
  readonly of?: unknown;
};

/** The key under which an answer is kept. */
export const toKey = <Name extends RouteName>(name: Name, given: Given<Name>, of?: unknown): readonly unknown[] =>
  of === undefined ? [name, given] : [name, given, of];

/** Asks a route and keeps its answer fresh: after changes of its topics, one's own or others', it is asked again. Nobody waits any more: it is given up. */
export function useRead<Name extends RouteName>(
  name: Name,
  given: Given<Name>,
  { after, of, ...options }: ReadOptions<Name> = {},
): UseQueryResult<Output<Name>> {
  const { api } = useProgramme();
  return useQuery<Output<Name>>({
    ...options,
    queryKey: toKey(name, given, of),
    queryFn: async ({ signal }) => {
      await after?.();
      return call(api, name, given, signal);
    },
  });
}

/**
 * A list whose first answer came with the page. Another question keeps what is shown until its own answer is here; where it is refused, that is told
 * and what was shown stays.
 */
export function useShown<Name extends RouteName>(name: Name, given: Given<Name>, initial: Output<Name>): Output<Name> {
  const notify = useNotice();
  const asked = JSON.stringify(given);
  const [first] = useState(asked);
  const { data = initial, error } = useRead(name, given, {
    ...(asked === first ? { initialData: initial } : {}),
    placeholderData: keepPreviousData as never,
  });
  useEffect(() => {
    if (error) notify({ kind: 'problem', text: toMessage(error) });
  }, [error, notify]);
  return data;
}
