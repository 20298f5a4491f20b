import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeScenario, CreateScenario } from '@kindred-baton/contracts/scenarios/scenario';
import type { NodeId } from '@kindred-baton/core/ids';
import { whyNotAgreed } from '@kindred-baton/core/scenarios/check-cells';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { EMPTY_DOCUMENT } from '@kindred-baton/core/scenarios/scenario-document';
import { createId } from '../ids.ts';
import { proposeNextCode } from '@kindred-baton/core/values/propose-next-code';
import { getPath, loadTree } from '../map/load-tree.ts';
import type { Context, Operation } from '../operation.ts';
import { nodes } from '../schema/map.ts';
import { isDrawn, scenarios } from '../schema/scenarios.ts';
import { applyEdits, lockScenario } from './edit-scenario.ts';
import { toDifference } from '../to-difference.ts';

export const createScenario: Operation<
  Omit<CreateScenario, 'edits'> & { readonly edits?: readonly ScenarioEdit[] | undefined },
  { code: string }
> = {
  right: 'edit scenarios',
  run: async (context, { code: given, name, node, edits = [] }) => {
    const { db, actor } = context;
    const nodeId = await findNodeId(context, node);
    const code = given || (await proposeScenarioCode(context, nodeId));
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
    const { scenario, document } = await lockScenario(context, code);
    const { id } = scenario;
    const reason = change.state === 'agreed' ? whyNotAgreed(document) : null;
    if (reason !== null) throw new AppError('invalid', `Scenario ${code} ${reason}`);
    const { node, ...fields } = change;
    const nodeCode = node === undefined ? undefined : await findNodeCode(context, scenario.nodeId);
    const set = node === undefined ? fields : { ...fields, nodeId: await findNodeId(context, node) };
    if (Object.keys(set).length > 0) await db.update(scenarios).set(set).where(eq(scenarios.id, id));
    await context.record({
      subject: 'scenario',
      subjectId: id,
      action: 'changed',
      details: toDifference({ ...scenario, node: nodeCode }, change),
    });
  },
};

/** After those of the same stream, else the stream’s first. */
async function proposeScenarioCode(context: Context, nodeId: NodeId): Promise<string> {
  const tree = await loadTree(context);
  const streamOf = (id: NodeId) => getPath(tree, id)[0]?.node;
  const stream = streamOf(nodeId);
  const rows = await context.db
    .select({ code: scenarios.code, nodeId: scenarios.nodeId })
    .from(scenarios)
    .where(and(eq(scenarios.programmeId, context.actor.programmeId), isDrawn));
  const near = rows.filter((row) => streamOf(row.nodeId)?.id === stream?.id).map(({ code }) => code);
  return proposeNextCode({ near, all: rows.map(({ code }) => code), first: `${stream?.code ?? 'S'}-S1` });
}

async function findNodeCode({ db }: Context, id: NodeId): Promise<string | undefined> {
  const [place] = await db.select({ code: nodes.code }).from(nodes).where(eq(nodes.id, id));
  return place?.code;
}

async function findNodeId({ db, actor }: Context, code: string): Promise<NodeId> {
  const [place] = await db
    .select({ id: nodes.id })
    .from(nodes)
    .where(and(eq(nodes.programmeId, actor.programmeId), eq(nodes.code, code)));
  if (!place) throw new AppError('not found', `There is no node ${code} on the map.`);
  return place.id;
}
