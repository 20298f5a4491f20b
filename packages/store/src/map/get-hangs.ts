import { and, asc, count, eq, inArray } from 'drizzle-orm';
import type { Hangs } from '@kindred-baton/contracts/map/node';
import type { NodeId } from '@kindred-baton/core/ids';
import type { Query, ReadContext } from '../operation.ts';
import { signOffs } from '../schema/cycles.ts';
import { requirementNodes, requirements } from '../schema/requirements.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { listSubtree, loadTree } from './load-tree.ts';

/** What hangs on the nodes and on all below them. */
export const getHangs: Query<{ codes: readonly string[] }, Hangs> = {
  right: 'read',
  read: async (context, { codes }) => {
    const tree = await loadTree(context);
    return loadHangs(context, [...new Set(codes.flatMap((code) => listSubtree(tree, code)))]);
  },
};

/** Five queries. */
export async function loadHangs({ db }: Pick<ReadContext, 'db'>, ids: readonly NodeId[]): Promise<Hangs> {
  const here = [...ids];
  if (here.length === 0) return { nodes: 0, tests: [], scenarios: [], requirements: [], turns: 0, signOffs: 0 };
  const [testRows, scenarioRows, requirementRows, [decisions], [recorded]] = await Promise.all([
    db.select({ id: tests.id, code: tests.code, name: tests.name }).from(tests).where(inArray(tests.nodeId, here)).orderBy(asc(tests.code)),
    db
      .select({ id: scenarios.id, code: scenarios.code, name: scenarios.name })
      .from(scenarios)
      .where(inArray(scenarios.nodeId, here))
      .orderBy(asc(scenarios.code)),
    db
      .selectDistinct({ id: requirements.id, code: requirements.code, name: requirements.title })
      .from(requirements)
      .innerJoin(requirementNodes, and(eq(requirementNodes.requirementId, requirements.id), inArray(requirementNodes.nodeId, here)))
      .orderBy(asc(requirements.code)),
    db.select({ decisions: count() }).from(signOffs).where(inArray(signOffs.nodeId, here)),
    db.select({ turns: count() }).from(turns).where(inArray(turns.nodeId, here)),
  ]);
  return {
    ...{ nodes: here.length, tests: testRows, scenarios: scenarioRows, requirements: requirementRows },
    ...{ turns: recorded?.turns ?? 0, signOffs: decisions?.decisions ?? 0 },
  };
}

/** “3 tests and 1 scenario are”, or null when nothing hangs there. */
export function describeHangs(hangs: Hangs): string | null {
  const counts = [
    [hangs.tests.length, 'test'],
    [hangs.scenarios.length, 'scenario'],
    [hangs.requirements.length, 'requirement'],
    [hangs.turns, 'turn'],
    [hangs.signOffs, 'sign-off'],
  ] as const;
  const parts = counts.map(([number, word]) => countOf(number, word)).filter((part) => part !== '');
  const total = counts.reduce((sum, [number]) => sum + number, 0);
  return total === 0 ? null : `${parts.join(', ')} ${total === 1 ? 'is' : 'are'}`;
}

const countOf = (number: number, word: string) => (number === 0 ? '' : `${number} ${word}${number === 1 ? '' : 's'}`);
