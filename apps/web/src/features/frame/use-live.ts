import type { Topic } from '@kindred-baton/contracts/events';
import type { QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';

/** Which questions are asked again when a topic changes: the first part of their keys. */
const STALE_AFTER: Readonly<Record<Topic, readonly string[]>> = {
  map: ['map', 'strip', 'progress', 'choices'],
  tests: ['tests', 'map', 'scenarios'],
  scenarios: ['scenarios', 'map', 'cycles'],
  cycles: ['cycles', 'strip', 'progress', 'turns', 'scenarios'],
  turns: ['turns', 'strip', 'progress', 'cycles', 'runs', 'map', 'tests', 'defects'],
  defects: ['defects', 'progress', 'turns', 'runs'],
};

const GATHER_MS = 200;

/** Keeps the page up to date with what others do. After a break in the connection everything is asked again. */
export function useLive(api: string, client: QueryClient): void {
  useEffect(() => {
    const source = new EventSource(`${api}/events`);
    const stale = new Set<string>();
    let timer: ReturnType<typeof setTimeout> | undefined;
    let wasBroken = false;
    const ask = () => {
      timer = undefined;
      for (const key of stale) void client.invalidateQueries({ queryKey: [key] });
      stale.clear();
    };
    source.onmessage = ({ data }) => {
      for (const key of STALE_AFTER[data as Topic] ?? []) stale.add(key);
      timer ??= setTimeout(ask, GATHER_MS);
    };
    source.onerror = () => (wasBroken = true);
    source.onopen = () => {
      if (wasBroken) void client.invalidateQueries();
      wasBroken = false;
    };
    return () => {
      clearTimeout(timer);
      source.close();
    };
  }, [api, client]);
}
