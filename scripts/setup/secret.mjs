import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { DATA } from './paths.mjs';

/** The secret that signs sessions: made once, kept beside the data, readable by its owner only. */
export function getSecret() {
  if (process.env.KINDRED_BATON_SECRET) return process.env.KINDRED_BATON_SECRET;
  const file = path.join(DATA, 'secret');
  if (!existsSync(file)) {
    mkdirSync(DATA, { recursive: true });
    writeFileSync(file, randomBytes(32).toString('hex'));
    chmodSync(file, 0o600);
  }
  return readFileSync(file, 'utf8');
}

/** The file of keys with which passwords are sealed: made once, beside the data, readable by its owner only. */
export function getKeysFile() {
  if (process.env.KINDRED_BATON_KEYS) return process.env.KINDRED_BATON_KEYS;
  const file = path.join(DATA, 'keys.json');
  if (!existsSync(file)) {
    mkdirSync(DATA, { recursive: true });
    const keys = { k1: randomBytes(32).toString('base64') };
    writeFileSync(file, JSON.stringify({ current: 'k1', keys }), { mode: 0o600 });
  }
  return file;
}
