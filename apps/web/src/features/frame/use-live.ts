import type { Topic } from '@kindred-baton/contracts/events';
import type { QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';

/** Which questions are asked again when a topic changes: the first part of their keys. */
const STALE_AFTER: Readonly<Record<Topic, readonly string[]>> = {
  programme: ['set-up', 'choices'],
  map: ['map', 'strip', 'progress', 'choices'],
  tests: ['tests', 'map', 'scenarios'],
  scenarios: ['scenarios', 'map', 'cycles'],
  cycles: ['cycles', 'strip', 'progress', 'turns', 'scenarios'],
  turns: ['turns', 'strip', 'progress', 'cycles', 'runs', 'map', 'tests', 'defects'],
  defects: ['defects', 'progress', 'turns', 'runs'],
};

/** The first change after a quiet while is shown at once; what follows closely is gathered, so that a busy hour asks twice a second. */
const AT_ONCE_MS = 15;
const GATHER_MS = 500;

/**
 * Keeps the page up to date with what others do. Only a page that is looked at listens: a browser opens no more than six
 * connections to a server, and tabs in the background would take them all. Coming back, or after a break, all is asked again.
 */
export function useLive(api: string, client: QueryClient): void {
  useEffect(() => {
    const stale = new Set<string>();
    let source: EventSource | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let hasMissed = false;
    let askedAt = 0;
    const ask = () => {
      timer = undefined;
      askedAt = performance.now();
      for (const key of stale) void client.invalidateQueries({ queryKey: [key] });
      stale.clear();
    };
    const listen = () => {
      source = new EventSource(`${api}/events`);
      source.onmessage = ({ data }) => {
        for (const key of STALE_AFTER[data as Topic] ?? []) stale.add(key);
        timer ??= setTimeout(ask, Math.max(AT_ONCE_MS, askedAt + GATHER_MS - performance.now()));
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
