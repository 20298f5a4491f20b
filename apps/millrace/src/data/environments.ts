import type { Pool } from 'pg';
import type { FaultName } from '../faults.ts';
import { FAULT_NAMES } from '../faults.ts';
import type { Release } from '../releases.ts';
import { RELEASES } from '../releases.ts';

/** How one environment stands. */
export interface Environment {
  readonly name: string;
  readonly release: Release;
  readonly faults: ReadonlySet<FaultName>;
  /** How long it waits before each answer, in milliseconds. */
  readonly slowMs: number;
  readonly isDown: boolean;
  readonly deployedAt: string;
}

const FIRST: readonly Pick<Environment, 'name' | 'release' | 'faults'>[] = [
  { name: 'rehearsal', release: '4.1.7', faults: new Set(['permit', 'note', 'hours', 'tariff', 'band', 'settle']) },
  { name: 'integration', release: '4.2', faults: new Set(['discount-deposit']) },
];
export const ENVIRONMENT_NAMES = FIRST.map(({ name }) => name);

export async function layEnvironments(pool: Pool): Promise<void> {
  await pool.query(`create table if not exists public.environments (
    name text primary key, release text not null, faults text[] not null, slow_ms integer not null default 0,
    is_down boolean not null default false, deployed_at timestamptz not null default now(), taken_over text not null default '')`);
  for (const { name, release, faults } of FIRST)
    await pool.query('insert into public.environments (name, release, faults) values ($1, $2, $3) on conflict do nothing', [
      name,
      release,
      [...faults],
    ]);
}

export async function listEnvironments(pool: Pool): Promise<Environment[]> {
  const { rows } = await pool.query<{
    name: string;
    release: string;
    faults: string[];
    slow_ms: number;
    is_down: boolean;
    deployed_at: Date;
  }>('select name, release, faults, slow_ms, is_down, deployed_at from public.environments order by name desc');
  return rows.map((row) => ({
    name: row.name,
    release: RELEASES.find((release) => release === row.release) ?? RELEASES[0],
    faults: new Set(FAULT_NAMES.filter((fault) => row.faults.includes(fault))),
    ...{ slowMs: row.slow_ms, isDown: row.is_down, deployedAt: row.deployed_at.toISOString() },
  }));
}

export const findEnvironment = async (pool: Pool, name: string): Promise<Environment | undefined> =>
  (await listEnvironments(pool)).find((environment) => environment.name === name);

export type EnvironmentChange = Partial<Pick<Environment, 'release' | 'slowMs' | 'isDown'>> & { readonly faults?: readonly FaultName[] };

export async function changeEnvironment(pool: Pool, { name, ...now }: Environment, change: EnvironmentChange): Promise<void> {
  const next = { ...now, ...change };
  await pool.query(
    `update public.environments set release = $2, faults = $3, slow_ms = $4, is_down = $5,
     deployed_at = case when release = $2 then deployed_at else now() end where name = $1`,
    [name, next.release, [...next.faults], next.slowMs, next.isDown],
  );
}

/** What was taken over from the old systems last, by its digest; `` for nothing. */
export async function getTakenOver(pool: Pool, name: string): Promise<string> {
  const { rows } = await pool.query<{ taken: string }>('select taken_over as taken from public.environments where name = $1', [name]);
  return rows[0]?.taken ?? '';
}

export const setTakenOver = (pool: Pool, name: string, digest: string) =>
  pool.query('update public.environments set taken_over = $2 where name = $1', [name, digest]);
