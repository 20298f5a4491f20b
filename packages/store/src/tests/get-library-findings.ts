import type { FindingFilter, LibraryFindings } from '@kindred-baton/contracts/tests/library';
import { examineTest, TEST_FINDING_RULES, toWaiverKey } from '@kindred-baton/core/tests/findings/rules';
import { findSharedOpenings } from '@kindred-baton/core/tests/findings/find-shared-openings';
import type { Clone } from '@kindred-baton/core/tests/find-clones';
import { findClones } from '@kindred-baton/core/tests/find-clones';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { toNameKey } from '@kindred-baton/core/values/field';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query } from '../operation.ts';
import type { NewestVersion } from './load-newest-versions.ts';
import { loadNewestVersions } from './load-newest-versions.ts';
import { loadReachedSteps } from './load-reached-steps.ts';
import { loadWaivers } from './load-waivers.ts';

const MOST_SHOWN = 1_000;
const CLONES_SHOWN = 50;

type Line = LibraryFindings['findings'][number];

/** Every finding over the library, or a part of it; clones are looked for in the whole. Four queries. Cost O(steps of the library). */
export const getLibraryFindings: Query<FindingFilter, LibraryFindings> = {
  right: 'read',
  read: async (context, { scope, rule }) => {
    const [tree, all, waivedBy, reached] = await Promise.all([
      loadTree(context),
      loadNewestVersions(context),
      loadWaivers(context),
      loadReachedSteps(context),
    ]);
    const below = scope === undefined ? null : new Set<string>(listSubtree(tree, scope));
    const clones = findClones(all.map(({ test, version }) => ({ test: test.code, steps: version.steps })));
    const openings = findSharedOpenings(clones);
    const needers = countNeeders(all);
    const shown = all.filter(({ test }) => below === null || below.has(test.nodeId));
    const lines = shown.flatMap(({ test, version }): Line[] => {
      const waivers = new Map((waivedBy.get(test.id) ?? []).map((waiver) => [toWaiverKey(waiver), waiver.note]));
      const own = new Set(version.needs.map(({ name }) => toNameKey(name)));
      const neededElsewhere = new Set(
        version.gives.map(({ name }) => toNameKey(name)).filter((key) => (needers.get(key) ?? 0) > (own.has(key) ? 1 : 0)),
      );
      const findings = examineTest({
        ...{ steps: version.steps, rows: version.rows, reached: reached.get(version.id) ?? null },
        ...{ neededElsewhere, sharedOpening: openings.get(test.code) ?? null },
      });
      return findings.map((finding) => ({
        ...finding,
        steps: [...finding.steps],
        test: { code: test.code, name: test.name },
        waived: waivers.get(toWaiverKey(finding)) ?? null,
      }));
    });
    const asked = lines.filter((line) => rule === undefined || line.rule === rule);
    const codes = new Set(shown.map(({ test }) => test.code));
    return {
      examined: shown.length,
      rules: TEST_FINDING_RULES.map(({ rule: name, title, weight }) => ({ rule: name, title, weight, ...countLines(lines, name) })),
      findings: asked.slice(0, MOST_SHOWN),
      more: Math.max(0, asked.length - MOST_SHOWN),
      clones: clones
        .filter(({ places }) => places.some(({ test }) => codes.has(test)))
        .slice(0, CLONES_SHOWN)
        .map((clone) => toCloneLine(clone, all)),
    };
  },
};

function countLines(lines: readonly Line[], rule: string): { count: number; waived: number } {
  const own = lines.filter((line) => line.rule === rule);
  const waived = own.filter((line) => line.waived !== null).length;
  return { count: own.length - waived, waived };
}

/** How many tests need a value, by its name. */
function countNeeders(all: readonly NewestVersion[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { version } of all)
    for (const key of new Set(version.needs.map(({ name }) => toNameKey(name)))) counts.set(key, (counts.get(key) ?? 0) + 1);
  return counts;
}

function toCloneLine({ length, places }: Clone, all: readonly NewestVersion[]): LibraryFindings['clones'][number] {
  const tests = [...new Set(places.map(({ test }) => test))];
  const [place] = places;
  const step = all.find(({ test }) => test.code === place?.test)?.version.steps[place?.at ?? 0];
  return { length, count: tests.length, tests: tests.slice(0, 20), first: step ? printStep(step) : '' };
}
