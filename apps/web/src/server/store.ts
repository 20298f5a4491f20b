import type { Store } from '@kindred-baton/store/database';
import { createStore } from '@kindred-baton/store/database';
import { getConfig } from './config.ts';
import { getLog } from './log.ts';

let store: Store | undefined;
let longStore: Store | undefined;

const open = (more: { readonly maxConnections?: number } = {}) =>
  createStore({
    url: getConfig().DATABASE_URL,
    onError: (error) => getLog().error({ error }, 'an idle database connection broke'),
    ...more,
  });

/** The one store of this server. */
export function getStore(): Store {
  store ??= open();
  return store;
}

/** So many long downloads at once. */
export const MOST_LONG = 8;

/** For what keeps a connection for minutes: connections of its own, so that nothing else waits for one. */
export function getLongStore(): Store {
  longStore ??= open({ maxConnections: MOST_LONG });
  return longStore;
}
