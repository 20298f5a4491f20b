import { and, asc, count, eq, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Acceptance, AcceptedNode, SignOff } from '@kindred-baton/contracts/cycles/acceptance';
import { isOver } from '@kindred-baton/core/defects/defect';
import { gatherProof } from '@kindred-baton/core/requirements/requirement';
import { checkExit } from '@kindred-baton/core/progress/check-exit';
import type { ExitFigures, ExitResult } from '@kindred-baton/core/progress/check-exit';
import type { NodeId, PersonId } from '@kindred-baton/core/ids';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import { NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import type { Counts } from '@kindred-baton/core/progress/tally';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import type { Actor } from '../actor.ts';
import type { Tree, TreeNode } from '../map/load-tree.ts';
import { getPath, listSubtree, loadTree } from '../map/load-tree.ts';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import { listRequirements } from '../requirements/list-requirements.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { signOffs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { turns } from '../schema/turns.ts';
import { tellRefused } from '../mails/tell.ts';
import { lockCycle, requireCycle } from './require-cycle.ts';

/** What each process owner decides on: the nodes that the cycle touches, with figures, what is open, and the decisions so far. */
export const getAcceptance: Query<string, Acceptance> = {
  right: 'read',
  read: async (context, code) => loadAcceptance(context, await requireCycle(context, code)),
};

/**
 * The same as it is shown: of a branch all that it has; without one two levels, and what has an owner or a decision of its own, since with thousands of
 * nodes nobody reads the rest in one table.
 */
export const getAcceptanceShown: Query<{ readonly code: string; readonly scope?: string | undefined }, Acceptance> = {
  right: 'read',
  read: async (context, { code, scope }) => {
    const { nodes, ...whole } = await loadAcceptance(context, await requireCycle(context, code));
    const tree = scope === undefined ? null : await loadTree(context);
    const branch = tree && new Set(listSubtree(tree, scope ?? '').map((id) => tree.byId.get(id)?.node.code));
    return { ...whole, nodes: nodes.filter((node) => (branch ? branch.has(node.code) : node.depth < 2 || node.isOwnDecision)) };
  },
};

interface Figures {
  readonly tree: Tree;
  /** How many turns of a status there are at a node. */
  readonly turns: readonly { readonly nodeId: NodeId; readonly status: TurnStatus; readonly turns: number }[];
  /** A defect stands there for each node of its turns, and for the one at which it was seen at no turn. */
  readonly defects: readonly (typeof defects.$inferSelect)[];
  readonly requirements: Awaited<ReturnType<typeof listRequirements.read>>['requirements'];
  readonly decisions: readonly { readonly signOff: typeof signOffs.$inferSelect; readonly by: string }[];
  readonly names: ReadonlyMap<PersonId, string>;
}

type Reading = Pick<ReadContext, 'db' | 'actor' | 'now'>;

async function loadFigures(context: Reading, cycle: CycleRow): Promise<Figures> {
  const { db } = context;
  const [tree, turnRows, defectRows, { requirements }, decisions, peopleRows] = await Promise.all([
    loadTree(context),
    db
      .select({ nodeId: turns.nodeId, status: turns.status, turns: count() })
      .from(turns)
      .where(and(eq(turns.cycleId, cycle.id), isTurnInScope))
      .groupBy(turns.nodeId, turns.status),
    db
      .selectDistinctOn([defects.id, turns.nodeId], {
        defect: defects,
        nodeId: sql<NodeId | null>`coalesce(${turns.nodeId}, ${defects.nodeId})`,
      })
      .from(defects)
      .leftJoin(defectTurns, eq(defectTurns.defectId, defects.id))
      .leftJoin(turns, eq(turns.id, defectTurns.turnId))
      .where(eq(defects.cycleId, cycle.id)),
    listRequirements.read(context, { cycleId: cycle.id }),
    db
      .select({ signOff: signOffs, by: people.name })
      .from(signOffs)
      .innerJoin(people, eq(people.id, signOffs.decidedBy))
      .where(eq(signOffs.cycleId, cycle.id)),
    db.select({ id: people.id, name: people.name }).from(people).orderBy(asc(people.name)),
  ]);
  return {
    ...{ tree, turns: turnRows, requirements, decisions, names: new Map(peopleRows.map(({ id, name }) => [id, name])) },
    defects: defectRows.map(({ defect, nodeId }) => ({ ...defect, nodeId })),
  };
}

async function loadAcceptance(context: Reading, cycle: CycleRow): Promise<Acceptance> {
  const figures = await loadFigures(context, cycle);
  const { tree } = figures;
  const branches = measureBranches(figures);
  const decisionOf = new Map(figures.decisions.map((decision) => [decision.signOff.nodeId, decision]));
  const own = tree.nodes.filter(
    ({ node, depth, order }) =>
      branches.isTouched(order) && (depth === 0 || node.ownerId !== null || node.isCritical || decisionOf.has(node.id)),
  );
  const all = branches.measure(null);
  return {
    ...{ state: cycle.state, counts: all.counts, criteria: toCriteria(checkExit(cycle.rules.exit, all)) },
    nodes: own.map((entry) => toAcceptedNode(context.actor, cycle, { figures, own: branches.measure(entry), decisionOf }, entry)),
  };
}

/** The whole of a cycle by its exit criteria, with what they are measured on. */
export async function loadCycleFigures(context: Reading, cycle: CycleRow) {
  const { tree, ...figures } = await loadFigures(context, cycle);
  const all = measureBranches({ tree, ...figures }).measure(null);
  return { tree, ...all, criteria: toCriteria(checkExit(cycle.rules.exit, all)) };
}

type BranchFigures = Omit<ExitFigures, 'requirements' | 'defects'> & Pick<Figures, 'requirements' | 'defects'>;

interface Branch {
  readonly counts: Record<TurnStatus, number>;
  readonly defects: Map<string, Figures['defects'][number]>;
  readonly requirements: Set<Figures['requirements'][number]>;
  readonly critical: TreeNode[];
}

/**
 * The figures of every branch of the map at once: each turn, defect, requirement and critical node is noted with all that it lies in. Cost O((turn
 * groups + defects + links of requirements + critical nodes) × depth).
 */
function measureBranches({ tree, ...figures }: Figures) {
  const createBranch = (): Branch => ({ counts: { ...NO_COUNTS }, defects: new Map(), requirements: new Set(), critical: [] });
  const branches = tree.nodes.map(createBranch);
  const whole = createBranch();
  const note = (entry: TreeNode | undefined, write: (branch: Branch, isIt: boolean) => void) => {
    for (let at = entry; at; at = tree.nodes[at.parent]) write(branches[at.order]!, at === entry);
  };
  for (const { nodeId, status, turns: own } of figures.turns) {
    whole.counts[status] += own;
    note(tree.byId.get(nodeId), ({ counts }) => (counts[status] += own));
  }
  for (const defect of figures.defects) {
    whole.defects.set(defect.id, defect);
    note(defect.nodeId ? tree.byId.get(defect.nodeId) : undefined, ({ defects: found }) => found.set(defect.id, defect));
  }
  for (const requirement of figures.requirements) {
    whole.requirements.add(requirement);
    for (const { code } of requirement.nodes) note(tree.byCode.get(code), ({ requirements }) => requirements.add(requirement));
  }
  const isTouched = (order: number) => sumCounts(branches[order]!.counts) > 0;
  for (const entry of tree.nodes) {
    if (!entry.node.isCritical || !isTouched(entry.order)) continue;
    whole.critical.push(entry);
    note(entry, ({ critical }, isIt) => void (isIt || critical.push(entry)));
  }
  const accepted = new Set(figures.decisions.filter(({ signOff }) => signOff.decision !== 'refused').map(({ signOff }) => signOff.nodeId));
  const isSignedOff = ({ node }: TreeNode) => getPath(tree, node.id).some((over) => accepted.has(over.node.id));
  /** Of a branch; null: of the whole map. */
  const measure = (entry: TreeNode | null): BranchFigures => {
    const { counts, defects: found, requirements, critical } = entry ? branches[entry.order]! : whole;
    return {
      ...{ counts, defects: [...found.values()], requirements: [...requirements] },
      criticalNodes: critical.map((one) => ({ code: one.node.code, isSignedOff: isSignedOff(one) })),
    };
  };
  return { isTouched, measure };
}

interface Accepting {
  readonly figures: Figures;
  readonly own: BranchFigures;
  readonly decisionOf: ReadonlyMap<NodeId, Figures['decisions'][number]>;
}

function toAcceptedNode(
  actor: Actor,
  cycle: CycleRow,
  { figures, own, decisionOf }: Accepting,
  { node, depth, parent }: TreeNode,
): AcceptedNode {
  const decision = decisionOf.get(node.id);
  return {
    ...{ code: node.code, name: node.name, depth, isCritical: node.isCritical, counts: own.counts },
    owner: node.ownerId ? (figures.names.get(node.ownerId) ?? null) : null,
    isOwnDecision: decision !== undefined || (node.ownerId !== null && figures.tree.nodes[parent]?.node.ownerId !== node.ownerId),
    canSign: (cycle.state === 'open' || cycle.state === 'closing') && maySign(actor, figures.tree, node.id),
    criteria: toCriteria(checkExit(cycle.rules.exit, own)),
    openDefects: own.defects.filter(({ status }) => !isOver(status)).map(({ code, title, severity }) => ({ code, title, severity })),
    requirements: own.requirements.map(({ code, title, state, tests }) => ({
      ...{ code, title, state },
      proof: gatherProof(tests.map(({ standing }) => standing)),
    })),
    signOff: decision
      ? {
          ...{
            decision: decision.signOff.decision,
            reason: decision.signOff.reason,
            by: decision.by,
            at: decision.signOff.decidedAt.toISOString(),
          },
          reservations: decision.signOff.reservations.map((item) => ({ ...item })),
          counts: { ...NO_COUNTS, ...decision.signOff.figures },
          criteria: toCriteria(decision.signOff.criteria),
          openDefects: decision.signOff.openDefects,
          hasMoved: differs(decision.signOff.figures, own.counts),
        }
      : null,
  };
}

const toCriteria = (results: readonly ExitResult[]) =>
  results.map((result) => ({ ...result, rule: { ...result.rule }, open: [...result.open] }));
const differs = (a: Counts, b: Counts) => (Object.keys(NO_COUNTS) as TurnStatus[]).some((status) => (a[status] ?? 0) !== (b[status] ?? 0));

/** The owner of a node decides on it and on what is below; nobody else, whatever the role. */
function maySign(actor: Actor, tree: Tree, id: NodeId): boolean {
  return hasRight(actor.roles, 'sign off') && getPath(tree, id).some(({ node }) => node.ownerId === actor.personId);
}

/** An owner's decision on a node, with the figures as they stand. Deciding again replaces it; both are in the history. */
export const signOffNode: Operation<{ code: string; signOff: SignOff }, { done: true }> = {
  right: 'sign off',
  run: async (context, { code, signOff }) => {
    const cycle = await lockCycle(context, code, ['open', 'closing']);
    const figures = await loadFigures(context, cycle);
    const entry = figures.tree.byCode.get(signOff.node);
    if (!entry) throw new AppError('not found', `There is no node ${signOff.node} on the map.`);
    if (!maySign(context.actor, figures.tree, entry.node.id)) {
      const owner = [...getPath(figures.tree, entry.node.id)].reverse().find(({ node }) => node.ownerId !== null)?.node.ownerId;
      throw new AppError(
        'forbidden',
        `${entry.node.name} is decided on by its owner${owner ? `, ${figures.names.get(owner)}` : '; it has none yet'}.`,
      );
    }
    const own = measureBranches(figures).measure(entry);
    if (sumCounts(own.counts) === 0)
      throw new AppError('invalid', `No turn of ${code} touches ${entry.node.name}: there is nothing to decide on.`);
    if (differs(own.counts, signOff.seen))
      throw new AppError('conflict', 'The figures have moved since you looked. Look again, then decide.');
    await writeSignOff(context, cycle, entry.node.id, { signOff, own, criteria: checkExit(cycle.rules.exit, own) });
    if (signOff.decision === 'refused') await tellRefused(context, { cycle: cycle.code, node: entry.node, reason: signOff.reason });
    return { done: true };
  },
};

interface Decided {
  readonly signOff: SignOff;
  readonly own: ExitFigures;
  readonly criteria: readonly ExitResult[];
}

async function writeSignOff(context: Context, cycle: CycleRow, nodeId: NodeId, { signOff, own, criteria }: Decided): Promise<void> {
  const { db, actor, now } = context;
  const row = {
    ...{
      decision: signOff.decision,
      reason: signOff.decision === 'accepted with reservations' && signOff.reason === '' ? 'See the reservations.' : signOff.reason,
    },
    ...{ figures: own.counts, criteria: [...criteria], reservations: signOff.reservations, decidedBy: actor.personId, decidedAt: now },
    openDefects: own.defects.filter(({ status }) => !isOver(status)).map((defect) => defect.code),
  };
  const [before] = await db
    .select()
    .from(signOffs)
    .where(and(eq(signOffs.cycleId, cycle.id), eq(signOffs.nodeId, nodeId)));
  await db
    .insert(signOffs)
    .values({ cycleId: cycle.id, nodeId, ...row })
    .onConflictDoUpdate({ target: [signOffs.cycleId, signOffs.nodeId], set: row });
  await context.record({
    subject: 'sign-off',
    subjectId: nodeId,
    action: signOff.decision,
    details: { cycle: cycle.code, node: signOff.node, ...row, before: before ?? null },
  });
}
