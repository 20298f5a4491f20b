import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeScenario, CreateScenario } from '@kindred-baton/contracts/scenarios/scenario';
import type { NodeId, ScenarioId } from '@kindred-baton/core/ids';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { EMPTY_DOCUMENT } from '@kindred-baton/core/scenarios/scenario-document';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { nodes } from '../schema/map.ts';
import { legs, scenarios } from '../schema/scenarios.ts';
import { applyEdits } from './edit-scenario.ts';
import { findScenarioId } from './get-scenario.ts';

export const createScenario: Operation<
  Omit<CreateScenario, 'edits'> & { readonly edits?: readonly ScenarioEdit[] | undefined },
  { code: string }
> = {
  right: 'edit scenarios',
  run: async (context, { code, name, node, edits = [] }) => {
    const { db, actor } = context;
    const nodeId = await findNodeId(context, node);
    const id = createId<'scenario'>();
    await db.insert(scenarios).values({ id, programmeId: actor.programmeId, code, name, nodeId });
    await context.record({ subject: 'scenario', subjectId: id, action: 'added', details: { code, name } });
    if (edits.length > 0)
      await applyEdits(context, { scenario: { id, state: 'sketch', agreedDocument: null }, before: EMPTY_DOCUMENT }, edits);
    return { code };
  },
};

export const changeScenario: Operation<{ code: string; change: ChangeScenario }, void> = {
  right: 'edit scenarios',
  run: async (context, { code, change }) => {
    const { db } = context;
    const id = await findScenarioId(context, code);
    if (change.state === 'agreed') await requireNoOpenLegs(context, id, code);
    const { node, ...fields } = change;
    const set = node === undefined ? fields : { ...fields, nodeId: await findNodeId(context, node) };
    if (Object.keys(set).length > 0) await db.update(scenarios).set(set).where(eq(scenarios.id, id));
    await context.record({ subject: 'scenario', subjectId: id, action: 'changed', details: change });
  },
};

async function findNodeId({ db, actor }: Context, code: string): Promise<NodeId> {
  const [place] = await db
    .select({ id: nodes.id })
    .from(nodes)
    .where(and(eq(nodes.programmeId, actor.programmeId), eq(nodes.code, code)));
  if (!place) throw new AppError('not found', `There is no node ${code} on the map.`);
  return place.id;
}

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
