import type { Topic } from '@kindred-baton/contracts/events';
import type { RouteName } from '@kindred-baton/contracts/routes';
import type { QueryClient } from '@tanstack/react-query';
import { useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useProgramme } from '../features/frame/programme-context.tsx';
import { useNotice } from '../ui/notices.tsx';
import type { Given, Output } from './call.ts';
import { call } from './call.ts';
import { toMessage } from './request.ts';
import { isStale, listTopics } from './stale.ts';

export interface Changes {
  /** Makes a change and asks again for all that it makes stale. Rejects with what is wrong, for a form. */
  readonly change: <Name extends RouteName>(name: Name, given: Given<Name>) => Promise<Output<Name>>;
  /** The same for a button: what is wrong is told, and so is what was done where there is a word for it. undefined: it was not done. */
  readonly act: <Name extends RouteName>(name: Name, given: Given<Name>, say?: Say<Output<Name>>) => Promise<Output<Name> | undefined>;
}

type Say<Answer> = string | ((answer: Answer) => string);

export function askAgain(client: QueryClient, topics: readonly Topic[]): Promise<void> {
  return client.invalidateQueries({ predicate: ({ queryKey }) => isStale(queryKey, topics) });
}

export function useChanges(): Changes {
  const { api } = useProgramme();
  const client = useQueryClient();
  const notify = useNotice();
  return useMemo(() => {
    const change: Changes['change'] = async (name, given) => {
      const answer = await call(api, name, given);
      await askAgain(client, listTopics(name));
      return answer;
    };
    const act: Changes['act'] = async (name, given, say) => {
      try {
        const answer = await change(name, given);
        if (say !== undefined) notify({ kind: 'done', text: typeof say === 'string' ? say : say(answer) });
        return answer;
      } catch (error) {
        notify({ kind: 'problem', text: toMessage(error) });
        return undefined;
      }
    };
    return { change, act };
  }, [api, client, notify]);
}
