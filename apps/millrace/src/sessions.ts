import { randomUUID } from 'node:crypto';
import type { User } from './users.ts';

const LASTS_MS = 8 * 3_600_000;

export interface Sessions {
  readonly begin: (user: User, environment: string) => string;
  readonly find: (key: string | undefined, environment: string) => User | undefined;
  /** All of an environment end, as they do when it is deployed. */
  readonly endAll: (environment: string) => void;
}

/** Who is signed in, by a key that only their browser has; kept while the process runs. */
export function createSessions(): Sessions {
  const open = new Map<string, { readonly user: User; readonly environment: string; readonly endsAt: number }>();
  return {
    begin: (user, environment) => {
      const key = randomUUID();
      open.set(key, { user, environment, endsAt: Date.now() + LASTS_MS });
      return key;
    },
    find: (key, environment) => {
      const session = key === undefined ? undefined : open.get(key);
      return session && session.environment === environment && session.endsAt > Date.now() ? session.user : undefined;
    },
    endAll: (environment) => {
      for (const [key, session] of open) if (session.environment === environment) open.delete(key);
    },
  };
}
