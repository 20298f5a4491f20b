import type { Topic } from '@kindred-baton/contracts/events';
import type { QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { askAgain } from '../../client/use-changes.ts';

/** The first change after a quiet while is shown at once; what follows closely is gathered, so that a busy hour asks at most twice a second. */
const AT_ONCE_MS = 15;
const GATHER_MS = 500;
/** Where answers take long, a page is one of many that ask: from one asking to the next it lets so many times as long pass. */
const PATIENCE = 3;

/**
 * Keeps the page up to date with what others do. Only a page that is looked at listens: a browser opens no more than six
 * connections to a server, and tabs in the background would take them all. Coming back, or after a break, all is asked again.
 */
export function useLive(api: string, client: QueryClient): void {
  useEffect(() => {
    const stale = new Set<Topic>();
    let source: EventSource | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let hasMissed = false;
    let askedAt = 0;
    let isAsking = false;
    let restMs = GATHER_MS;
    const askSoon = () => {
      if (isAsking) return;
      timer ??= setTimeout(() => void ask(), Math.max(AT_ONCE_MS, askedAt + restMs - performance.now()));
    };
    // What changes while an answer is under way is asked for once it is here: asking anew each time, it would never come in a busy hour.
    const ask = async () => {
      timer = undefined;
      askedAt = performance.now();
      isAsking = true;
      const topics = [...stale];
      stale.clear();
      await askAgain(client, topics);
      isAsking = false;
      const tookMs = performance.now() - askedAt;
      restMs = Math.max(GATHER_MS, PATIENCE * tookMs);
      if (stale.size > 0) askSoon();
    };
    const listen = () => {
      source = new EventSource(`${api}/events`);
      source.onmessage = ({ data }) => {
        stale.add(data as Topic);
        askSoon();
      };
      source.onerror = () => (hasMissed = true);
      source.onopen = () => {
        if (hasMissed) void client.invalidateQueries();
        hasMissed = false;
      };
    };
    const rest = () => {
      source?.close();
      source = undefined;
      hasMissed = true;
    };
    const follow = () => {
      if (document.visibilityState === 'hidden') rest();
      else if (!source) listen();
    };
    follow();
    document.addEventListener('visibilitychange', follow);
    addEventListener('pagehide', rest);
    addEventListener('pageshow', follow);
    return () => {
      document.removeEventListener('visibilitychange', follow);
      removeEventListener('pagehide', rest);
      removeEventListener('pageshow', follow);
      clearTimeout(timer);
      source?.close();
    };
  }, [api, client]);
}
