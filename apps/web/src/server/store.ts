import type { Store } from '@kindred-baton/store/database';
import { createStore } from '@kindred-baton/store/database';
import { getConfig } from './config.ts';
import { getLog } from './log.ts';

let store: Store | undefined;

/** The one store of this server. */
export function getStore(): Store {
  store ??= createStore({
    url: getConfig().DATABASE_URL,
    onError: (error) => getLog().error({ error }, 'an idle database connection broke'),
  });
  return store;
}
