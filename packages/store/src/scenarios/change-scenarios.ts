import { and, eq, notInArray, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeScenario, CreateScenario } from '@kindred-baton/contracts/scenarios/scenario';
import type { ScenarioId } from '@kindred-baton/core/ids';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { nodes } from '../schema/map.ts';
import { legs, scenarioRows, scenarios } from '../schema/scenarios.ts';
import { findScenarioId } from './get-scenario.ts';

export const createScenario: Operation<CreateScenario, { code: string }> = {
  right: 'edit scenarios',
  run: async (context, { code, name, node }) => {
    const { db, actor } = context;
    const [place] = await db
      .select({ id: nodes.id })
      .from(nodes)
      .where(and(eq(nodes.programmeId, actor.programmeId), eq(nodes.code, node)));
    if (!place) throw new AppError('not found', `There is no node ${node} on the map.`);
    const id = createId<'scenario'>();
    await db.insert(scenarios).values({ id, programmeId: actor.programmeId, code, name, nodeId: place.id });
    await context.record({ subject: 'scenario', subjectId: id, action: 'added', details: { code, name } });
    context.announce('scenarios');
    return { code };
  },
};

export const changeScenario: Operation<{ code: string; change: ChangeScenario }, void> = {
  right: 'edit scenarios',
  run: async (context, { code, change }) => {
    const { db } = context;
    const id = await findScenarioId(context, code);
    const { rows, ...fields } = change;
    if (change.state === 'agreed') await requireNoOpenLegs(context, id, code);
    if (Object.keys(fields).length > 0) await db.update(scenarios).set(fields).where(eq(scenarios.id, id));
    if (rows) await replaceRows(context, id, rows);
    await context.record({ subject: 'scenario', subjectId: id, action: 'changed', details: change });
    context.announce('scenarios');
  },
};

async function requireNoOpenLegs({ db }: Context, id: ScenarioId, code: string): Promise<void> {
  const rows = await db.select({ testId: legs.testId }).from(legs).where(eq(legs.scenarioId, id));
  if (rows.length === 0) throw new AppError('invalid', `Scenario ${code} has no legs yet.`);
  const open = rows.filter((row) => row.testId === null).length;
  if (open > 0)
    throw new AppError(
      'invalid',
      `Scenario ${code} has ${open} open ${open === 1 ? 'leg' : 'legs'}; it stays a sketch until their tests are written.`,
    );
}

/** Rows keep their ids and stay in place, so that runs made of them still point to the row they ran. */
async function replaceRows({ db }: Context, scenarioId: ScenarioId, rows: NonNullable<ChangeScenario['rows']>): Promise<void> {
  const existing = await db.select({ id: scenarioRows.id }).from(scenarioRows).where(eq(scenarioRows.scenarioId, scenarioId));
  const known = new Set(existing.map((row) => row.id));
  const wanted = rows.map((row, position) => ({
    ...row,
    id: row.id && known.has(row.id) ? row.id : createId<'scenarioRow'>(),
    scenarioId,
    position,
  }));
  const kept = wanted.map((row) => row.id);
  await db
    .delete(scenarioRows)
    .where(and(eq(scenarioRows.scenarioId, scenarioId), kept.length > 0 ? notInArray(scenarioRows.id, kept) : undefined));
  // Names are unique in a scenario; set aside first, two rows can swap theirs.
  await db
    .update(scenarioRows)
    .set({ name: sql`${scenarioRows.id}::text` })
    .where(eq(scenarioRows.scenarioId, scenarioId));
  if (wanted.length === 0) return;
  await db
    .insert(scenarioRows)
    .values(wanted)
    .onConflictDoUpdate({
      target: scenarioRows.id,
      set: { name: sql`excluded.name`, position: sql`excluded.position`, values: sql`excluded.values` },
    });
}
