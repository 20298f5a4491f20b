/** Brings the database up to date and lays the demo where it is empty. Called by start.mjs; prints nothing when all is there. */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { hashPassword } from 'better-auth/crypto';
import { createStore } from '@kindred-baton/store/database';
import { layDemoDoors } from '@kindred-baton/store/demo/lay-doors';
import { letDemoRunnersIn } from '@kindred-baton/store/demo/let-runners-in';
import { listDemoCases } from '@kindred-baton/store/demo/list-demo-cases';
import { pointDemo } from '@kindred-baton/store/demo/point-demo';
import { BIG } from '@kindred-baton/store/demo/big/big-size';
import { seedDemo } from '@kindred-baton/store/demo/seed-demo';
import type { Seal } from '@kindred-baton/store/secrets';
import { parseKeyRing, seal } from '@kindred-baton/store/secrets';
import { migrateStore } from '@kindred-baton/store/migrate';

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set.');
const practice = process.env['KINDRED_BATON_PRACTICE_ADDRESS'];
const store = createStore({ url });

/** The practice application learns what the demo's runs carry, so that their next turns can be done there. */
async function handOver(address: string): Promise<void> {
  for (const [environment, cases] of await listDemoCases(store)) {
    const body = JSON.stringify(cases);
    const answer = await fetch(`${address}/take-over/${environment.toLowerCase()}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body,
    });
    if (!answer.ok) throw new Error(`The practice application did not take the demo's runs over (${answer.status}).`);
  }
}

/** The runner of this machine gets its token once; who retires it starts the next with another folder. */
async function letRunnersIn(): Promise<void> {
  const [keys, file] = [process.env['KINDRED_BATON_KEYS'], process.env['KINDRED_BATON_RUNNER_TOKEN_FILE']];
  if (!keys || !file) return;
  const ring = parseKeyRing(readFileSync(keys, 'utf8'));
  const known = existsSync(file) ? readFileSync(file, 'utf8') : '';
  const sealHere: Seal = (secret, place) => seal(ring, secret, place);
  const databaseUrl = process.env['KINDRED_BATON_PRACTICE_DATABASE'];
  if (practice && databaseUrl) await layDemoDoors(store, { address: practice, databaseUrl }, sealHere);
  const token = await letDemoRunnersIn(store, { seal: sealHere, token: known });
  if (token !== undefined) writeFileSync(file, token, { mode: 0o600 });
}

try {
  await migrateStore(store);
  if (process.env['KINDRED_BATON_DEMO'] !== 'no') {
    const started = Date.now();
    const password = await hashPassword(process.env['KINDRED_BATON_DEMO_PASSWORD'] ?? 'pass-the-baton');
    const laid = await seedDemo(store, password, process.env['KINDRED_BATON_DEMO_SIZE'] === 'big' ? BIG : undefined);
    if (practice) await pointDemo(store, practice);
    if (practice) await handOver(practice);
    await letRunnersIn();
    if (laid) process.stdout.write(`The demo programme is laid (${((Date.now() - started) / 1_000).toFixed(1)} s).\n`);
  }
} finally {
  await store.pool.end();
}
