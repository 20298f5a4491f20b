import { asc, eq } from 'drizzle-orm';
import type { Store } from '../database.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { environments } from '../schema/programmes.ts';
import { tests } from '../schema/tests.ts';
import { attempts, turns } from '../schema/turns.ts';
import { formatCents, getPieceCents, MATERIAL_NAMES } from './charges.ts';

/** What was done says more than the values that travel: what the practice application has to know of it too. */
const SAYS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  'FLD-03': { 'Meter state': 'fitted' },
  'STO-04': { Approved: 'yes' },
  'STO-07': { Delivered: '1' },
  'FIN-11': { Matched: 'yes' },
};

/**
 * What each run of the demo carries so far, by environment: the practice application takes it over, so that a turn that is ready in the demo
 * can be done there with the numbers that its guide says.
 */
export async function listDemoCases({ db }: Store): Promise<Map<string, Record<string, string>[]>> {
  const rows = await db
    .select({
      run: runs.id,
      values: runs.values,
      environment: environments.name,
      test: tests.code,
      kept: attempts.kept,
      outcome: attempts.outcome,
    })
    .from(runs)
    .innerJoin(cycles, eq(cycles.id, runs.cycleId))
    .innerJoin(environments, eq(environments.id, cycles.environmentId))
    .innerJoin(turns, eq(turns.runId, runs.id))
    .innerJoin(attempts, eq(attempts.turnId, turns.id))
    .innerJoin(tests, eq(tests.id, turns.testId))
    .orderBy(asc(attempts.finishedAt));
  const cases = new Map<string, { environment: string; values: Record<string, string> }>();
  for (const { run, values, environment, test, kept, outcome } of rows) {
    const own = cases.get(run) ?? { environment, values: { ...values, ...priceOf(values) } };
    if (outcome === 'passed') Object.assign(own.values, kept, SAYS[test]);
    cases.set(run, own);
  }
  const byEnvironment = new Map<string, Record<string, string>[]>();
  for (const { environment, values } of cases.values()) byEnvironment.set(environment, [...(byEnvironment.get(environment) ?? []), values]);
  return byEnvironment;
}

function priceOf(values: Readonly<Record<string, string>>): Record<string, string> {
  const material = MATERIAL_NAMES.find((name) => name === values['Material']);
  return material ? { Price: formatCents(getPieceCents(material)) } : {};
}
