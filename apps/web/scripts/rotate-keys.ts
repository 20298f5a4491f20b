/** Adds a key and seals every secret anew with it, or forgets the keys that seal nothing any more. Called by scripts/keys.mjs. */
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createStore } from '@kindred-baton/store/database';
import { countByKey, resealSecrets } from '@kindred-baton/store/runners/rotate-secrets';
import type { KeyRing } from '@kindred-baton/store/secrets';
import { addKey, parseKeyRing } from '@kindred-baton/store/secrets';

const [what, file] = process.argv.slice(2);
const url = process.env['DATABASE_URL'];
if (!url || file === undefined) throw new Error('DATABASE_URL or the file of keys is not said.');
const store = createStore({ url });

/** Whole or not at all: a server may read it meanwhile. */
function write(ring: KeyRing): void {
  writeFileSync(`${file}.new`, JSON.stringify(ring), { mode: 0o600 });
  renameSync(`${file}.new`, file!);
}

try {
  const ring = parseKeyRing(readFileSync(file, 'utf8'));
  if (what === 'rotate') {
    const next = addKey(ring);
    // First the key, then what it seals: nothing is ever sealed with a key that is kept nowhere.
    write(next);
    const sealed = await resealSecrets(store, next);
    process.stdout.write(`Sealed anew with the key ${next.current}: ${sealed} secrets.\n`);
  } else {
    const used = await countByKey(store.db);
    const keys = Object.fromEntries(Object.entries(ring.keys).filter(([name]) => name === ring.current || used.has(name)));
    write({ ...ring, keys });
    process.stdout.write(
      `Kept: ${Object.keys(keys).join(', ')}. Forgotten: ${
        Object.keys(ring.keys)
          .filter((name) => !(name in keys))
          .join(', ') || 'none'
      }.\n`,
    );
  }
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 1;
} finally {
  await store.pool.end();
}
