import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

const SCRIPTS = fileURLToPath(new URL('../../scripts/', import.meta.url));
const folder = mkdtempSync('/var/tmp/kindred-baton-kept-');
chmodSync(folder, 0o755);

/** Runs a command of the README on a data folder of its own. */
function run(name: string, ...args: string[]): { code: number | null; output: string } {
  const { DATABASE_URL: _, ...inherited } = process.env;
  const done = spawnSync(process.execPath, [path.join(SCRIPTS, `${name}.mjs`), ...args], {
    encoding: 'utf8',
    env: { ...inherited, KINDRED_BATON_DATA: folder, INIT_CWD: folder },
  });
  return { code: done.status, output: `${done.stdout}${done.stderr}` };
}

async function ask(text: string): Promise<Record<string, unknown>[]> {
  const { startCluster } = (await import('../../scripts/setup/cluster.mjs' as string)) as {
    startCluster: (data: string) => Promise<{ url: (name: string) => string; stop: () => void }>;
  };
  const { default: pg } = await import('pg');
  const cluster = await startCluster(folder);
  const client = new pg.Client({ connectionString: cluster.url('kindred_baton') });
  await client.connect();
  try {
    return (await client.query(text)).rows as Record<string, unknown>[];
  } finally {
    await client.end();
    cluster.stop();
  }
}
const listKeys = async () => (await ask('select key from programmes order by key')).map(({ key }) => key);

describe('what is stored', () => {
  beforeAll(async () => {
    expect(run('reset').output).toContain('The demo is as new.');
    await ask(
      "insert into programmes (id, key, name, time_zone, levels, defect_prefix) values (gen_random_uuid(), 'north', 'North', 'Europe/London', '{Stream,Process}', 'D')",
    );
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('is not deleted by a reset: what would be lost is named, and asked for by name', async () => {
    const refused = run('reset');
    expect([refused.code, refused.output]).toEqual([1, expect.stringContaining('North (/north): 0 people, 0 turns')]);
    expect(refused.output).toContain('npm run reset -- --yes north');
    expect(await listKeys()).toContain('north');
  });

  it('goes into one file that was restored and compared, and comes back from it in the place of what was there meanwhile', async () => {
    const kept = run('backup', 'all.backup');
    expect([kept.code, kept.output]).toEqual([0, expect.stringContaining('restored once and compared row by row')]);
    const before = await ask('select id, title from turns order by id');
    await ask("update programmes set name = 'South' where key = 'north'");
    await ask("update turns set title = 'lost'");
    expect(run('restore', 'all.backup').output).toContain('South (/north)');
    writeFileSync(path.join(folder, 'broken.backup'), 'no backup at all');
    expect(run('restore', 'broken.backup', '--yes', 'north').output).toContain('is no backup of Kindred Baton');
    // One that breaks off in the middle is broken too: its half is not taken for the whole.
    const whole = readFileSync(path.join(folder, 'all.backup'));
    for (const share of [0.3, 0.6, 0.95]) {
      writeFileSync(path.join(folder, 'half.backup'), whole.subarray(0, Math.floor(share * whole.length)));
      expect(run('restore', 'half.backup', '--yes', 'north').output).toContain('is no backup of Kindred Baton, or is broken');
    }
    expect((await ask("select name from programmes where key = 'north'"))[0]).toEqual({ name: 'South' });
    expect((await ask('select distinct title from turns'))[0]).toEqual({ title: 'lost' });
    expect(run('restore', 'all.backup', '--yes', 'north').output).toContain('Restored: the demo as it was, North.');
    expect(await ask('select id, title from turns order by id')).toEqual(before);
  });

  it('is lost where it is said to be, by name', async () => {
    expect(run('reset', '--yes', 'north').code).toBe(0);
    expect(await listKeys()).toEqual(['brindlemere']);
  });

  it('is left alone in a database that is another’s', async () => {
    await ask('drop schema public cascade');
    await ask('create schema public');
    await ask('create table ledger (id int)');
    expect(run('reset').output).toContain('no database of Kindred Baton: it holds ledger');
    expect(await ask('select count(*)::int as rows from ledger')).toEqual([{ rows: 0 }]);
  });
});
