import type { DBSchema, IDBPDatabase } from 'idb';
import { openDB } from 'idb';
import type { OutboxItem } from './outbox.ts';

interface ShelvedItem {
  readonly key: number;
  readonly item: OutboxItem;
  /** Why the server refused it for good; null: it is on its way. */
  readonly refused: string | null;
}

/** Where items lie until the server has them. */
export interface OutboxShelf {
  readonly add: (item: OutboxItem) => Promise<void>;
  /** In the order in which they were put. */
  readonly list: () => Promise<readonly ShelvedItem[]>;
  /** It is not sent any more, and stays to be seen with the reason. */
  readonly setAside: (key: number, why: string) => Promise<void>;
  readonly remove: (key: number) => Promise<void>;
}

interface OutboxSchema extends DBSchema {
  letters: { key: number; value: OutboxItem & { readonly personId: string; readonly refused?: string } };
}

let database: Promise<IDBPDatabase<OutboxSchema>> | undefined;

function open(): Promise<IDBPDatabase<OutboxSchema>> {
  database ??= openDB<OutboxSchema>('kindred-baton-outbox', 1, {
    upgrade: (db) => void db.createObjectStore('letters', { autoIncrement: true }),
  }).catch((error: unknown) => {
    // The next try opens it anew.
    database = undefined;
    throw error;
  });
  return database;
}

/** One person's items in this browser; another person's stay until she is back. */
export function openShelf(personId: string): OutboxShelf {
  return {
    add: async (item) => void (await (await open()).add('letters', { ...item, personId })),
    list: async () => {
      const db = await open();
      const [keys, items] = await Promise.all([db.getAllKeys('letters'), db.getAll('letters')]);
      return items.flatMap(({ refused = null, ...item }, index) =>
        item.personId === personId && keys[index] !== undefined ? [{ key: keys[index], item, refused }] : [],
      );
    },
    setAside: async (key, why) => {
      const db = await open();
      const item = await db.get('letters', key);
      if (item) await db.put('letters', { ...item, refused: why }, key);
    },
    remove: async (key) => (await open()).delete('letters', key),
  };
}
