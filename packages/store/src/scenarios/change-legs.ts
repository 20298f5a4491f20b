import { and, asc, eq, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { AddLeg, ChangeLeg } from '@kindred-baton/contracts/scenarios/scenario';
import type { LegId, ScenarioId, TestId } from '@kindred-baton/core/ids';
import type { Context, Operation } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import type { LegRow } from '../schema/scenarios.ts';
import { legs, scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';

/**
 * Legs are added, moved and removed by what they stand before, with the scenario's row locked, so that two people who
 * edit at once join their changes. An id that is there already was sent twice and changes nothing.
 */
export const addLeg: Operation<{ code: string; leg: AddLeg }, { id: LegId }> = {
  right: 'edit scenarios',
  run: async (context, { code, leg }) => {
    const { db } = context;
    const { scenarioId, chain } = await lockChain(context, code);
    if (chain.some((other) => other.id === leg.id)) return { id: leg.id };
    await requireOwn(context, { teamId: leg.teamId });
    const testId = leg.test === null ? null : await findTestId(context, leg.test);
    await db
      .insert(legs)
      .values({ id: leg.id, scenarioId, testId, title: leg.title || null, teamId: leg.teamId ?? null, position: chain.length });
    await placeLeg(context, [...chain.map((other) => other.id), leg.id], leg.id, leg.before);
    await note(context, scenarioId, 'leg added', { test: leg.test, title: leg.title });
    return { id: leg.id };
  },
};

export const changeLeg: Operation<{ code: string; legId: LegId; change: ChangeLeg }, void> = {
  right: 'edit scenarios',
  run: async (context, { code, legId, change }) => {
    const { db } = context;
    const { scenarioId, chain } = await lockChain(context, code);
    getLeg(chain, legId, code);
    await requireOwn(context, { teamId: change.teamId });
    const { before, test, ...fields } = change;
    const testId = test === undefined ? undefined : test === null ? null : await findTestId(context, test);
    const row = { ...fields, ...(testId === undefined ? {} : { testId }) };
    if (Object.keys(row).length > 0) await db.update(legs).set(row).where(eq(legs.id, legId));
    if (before !== undefined)
      await placeLeg(
        context,
        chain.map((other) => other.id),
        legId,
        before,
      );
    await note(context, scenarioId, before === undefined ? 'leg changed' : 'leg moved', { leg: legId, ...change });
  },
};

/** Removes a leg; what was wired to it, or waited for it by hand, is wired anew. */
export const removeLeg: Operation<{ code: string; legId: LegId }, void> = {
  right: 'edit scenarios',
  run: async (context, { code, legId }) => {
    const { db } = context;
    const { scenarioId, chain } = await lockChain(context, code);
    const leg = getLeg(chain, legId, code);
    const others = chain.filter((other) => other.id !== legId);
    await writeLinks(
      context,
      others.filter((other) => pointsTo(other, legId)).map((other) => forget(other, legId)),
    );
    await db.delete(legs).where(eq(legs.id, legId));
    await numberLegs(
      context,
      others.map((other) => other.id),
    );
    await note(context, scenarioId, 'leg removed', { leg });
  },
};

function pointsTo(leg: LegRow, legId: LegId): boolean {
  return leg.after?.includes(legId) === true || leg.wires.some(({ from }) => from.kind === 'leg' && from.leg === legId);
}

function forget(leg: LegRow, legId: LegId): Pick<LegRow, 'id' | 'after' | 'wires'> {
  const after = leg.after?.filter((id) => id !== legId) ?? null;
  return {
    id: leg.id,
    after: after && after.length > 0 ? after : leg.after?.length === 0 ? [] : null,
    wires: leg.wires.filter(({ from }) => from.kind !== 'leg' || from.leg !== legId),
  };
}

async function writeLinks({ db }: Context, links: readonly Pick<LegRow, 'id' | 'after' | 'wires'>[]): Promise<void> {
  if (links.length === 0) return;
  await db.execute(sql`
    update legs set after = nullif(link.after, 'null'::jsonb), wires = link.wires
    from jsonb_to_recordset(${JSON.stringify(links)}::jsonb) as link(id uuid, after jsonb, wires jsonb)
    where legs.id = link.id`);
}

async function lockChain({ db, actor }: Context, code: string): Promise<{ scenarioId: ScenarioId; chain: LegRow[] }> {
  const [scenario] = await db
    .select({ id: scenarios.id })
    .from(scenarios)
    .where(and(eq(scenarios.programmeId, actor.programmeId), eq(scenarios.code, code)))
    .for('update');
  if (!scenario) throw new AppError('not found', `There is no scenario ${code}.`);
  const chain = await db.select().from(legs).where(eq(legs.scenarioId, scenario.id)).orderBy(asc(legs.position), asc(legs.id));
  return { scenarioId: scenario.id, chain };
}

function getLeg(chain: readonly LegRow[], legId: LegId, code: string): LegRow {
  const leg = chain.find((candidate) => candidate.id === legId);
  if (!leg) throw new AppError('not found', `Scenario ${code} no longer has that leg; somebody else may have removed it.`);
  return leg;
}

async function findTestId({ db, actor }: Context, code: string): Promise<TestId> {
  const [test] = await db
    .select({ id: tests.id })
    .from(tests)
    .where(and(eq(tests.programmeId, actor.programmeId), eq(tests.code, code)));
  if (!test) throw new AppError('not found', `There is no test ${code} in the library.`);
  return test.id;
}

async function placeLeg(context: Context, order: readonly LegId[], legId: LegId, before: LegId | null): Promise<void> {
  const others = order.filter((id) => id !== legId);
  const at = before === null ? others.length : others.indexOf(before);
  await numberLegs(context, [...others.slice(0, at < 0 ? others.length : at), legId, ...others.slice(at < 0 ? others.length : at)]);
}

async function numberLegs({ db }: Context, order: readonly LegId[]): Promise<void> {
  if (order.length === 0) return;
  await db.execute(
    sql`update legs set position = place.at - 1 from unnest(${sql.param(order)}::uuid[]) with ordinality as place(id, at) where legs.id = place.id`,
  );
}

async function note(context: Context, scenarioId: ScenarioId, action: string, details: Record<string, unknown>): Promise<void> {
  await context.record({ subject: 'scenario', subjectId: scenarioId, action, details });
  context.announce('scenarios');
}
