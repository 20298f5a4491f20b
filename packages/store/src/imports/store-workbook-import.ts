import { and, desc, eq, inArray, ne } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { WorkbookComparison, WorkbookSurroundings } from '@kindred-baton/core/imports/compare-workbook';
import { compareWorkbook } from '@kindred-baton/core/imports/compare-workbook';
import type { WorkbookEntries } from '@kindred-baton/core/imports/workbook-entries';
import type { DrawnTest } from '@kindred-baton/core/scenarios/draw-legs';
import { toTestKey } from '@kindred-baton/core/scenarios/draw-legs';
import { isSame } from '@kindred-baton/core/values/is-same';
import { requireRight } from '../actor.ts';
import { lockMap } from '../map/edit-map.ts';
import { loadOutline } from '../map/load-outline.ts';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import { changeScenario, createScenario } from '../scenarios/change-scenarios.ts';
import { editScenario } from '../scenarios/edit-scenario.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import { listDrawn, toDrawn } from '../scenarios/load-chains.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { loadScenarioSurroundings } from './load-scenario-surroundings.ts';
import { storeMapImport, toSurroundings } from './store-map-import.ts';
import { loadLibrary, storeTestImport } from './store-test-import.ts';

/** A workbook against the map, the library and the scenarios. */
export const compareWorkbookImport: Query<WorkbookEntries, WorkbookComparison> = {
  right: 'edit map',
  read: async (context, entries) => compareWorkbook(entries, await loadWorkbookSurroundings(context, entries)),
};

interface StoreInput {
  readonly entries: WorkbookEntries;
  /** New tests and scenarios come in agreed, by whoever takes them in; else as drafts and sketches. */
  readonly agreesNew: boolean;
  readonly seen: (comparison: WorkbookComparison) => boolean;
}

/**
 * Takes a workbook in, all of it or nothing, by the ways of all lists: edits of the map, new tests and drafts, edits of scenarios, each with its
 * history. It is compared again in the same transaction; when others have changed something since the preview, nothing is stored.
 */
export const storeWorkbookImport: Operation<StoreInput, void> = {
  right: 'edit map',
  run: async (context, { entries, agreesNew, seen }) => {
    await lockMap(context);
    const comparison = compareWorkbook(entries, await loadWorkbookSurroundings(context, entries));
    if (!seen(comparison)) throw new AppError('conflict', 'The programme has changed since the preview; look at the file again.');
    if (comparison.problems.length > 0) throw new AppError('invalid', 'There is something to mend in the file; nothing was stored.');
    requireRights(context, comparison, agreesNew);
    await storeMapImport.run(context, {
      ...{ entries: entries.nodes, below: null, addsNames: false, choice: { leftOut: [], missing: 'keep' } },
      seen: ({ differences }) => isSame(differences, comparison.map.differences),
    });
    await storeTestImport.run(context, {
      ...{ entries: entries.tests, activity: null, agreesNew },
      seen: ({ differences }) => isSame(differences, comparison.tests.differences),
    });
    for (const scenario of comparison.scenarios) await storeScenario(context, scenario, agreesNew);
    const count = (list: readonly { readonly kind: string }[]) => list.filter(({ kind }) => kind !== 'same' && kind !== 'missing').length;
    await context.record({
      ...{ subject: 'programme', subjectId: context.actor.programmeId, action: 'workbook imported' },
      details: {
        nodes: count(comparison.map.differences),
        tests: count(comparison.tests.differences),
        scenarios: count(comparison.scenarios),
      },
    });
  },
};

/** Each part takes the right of its own. */
function requireRights({ actor }: Context, { tests: library, scenarios }: WorkbookComparison, agreesNew: boolean): void {
  const isTests = library.differences.some(({ kind }) => kind !== 'same');
  if (isTests) requireRight(actor, 'edit tests');
  if (isTests && agreesNew) requireRight(actor, 'agree tests');
  if (scenarios.some(({ kind }) => kind !== 'same')) requireRight(actor, 'edit scenarios');
}

async function storeScenario(
  context: Context,
  { kind, code, name, node, edits, changes, document }: WorkbookComparison['scenarios'][number],
  agreesNew: boolean,
): Promise<void> {
  if (kind === 'new') {
    await createScenario.run(context, { code, name, node, edits });
    const isWhole = document.legs.length > 0 && document.legs.every(({ test }) => test !== null);
    if (agreesNew && isWhole) await changeScenario.run(context, { code, change: { state: 'agreed' } });
    return;
  }
  if (changes.length > 0) await changeScenario.run(context, { code, change: { name, node } });
  if (edits.length > 0) await editScenario.run(context, { code, edits });
}

/** Some twenty queries, whatever the workbook’s size. */
async function loadWorkbookSurroundings(context: ReadContext, { scenarios }: WorkbookEntries): Promise<WorkbookSurroundings> {
  const codes = [...new Set(scenarios.flatMap(({ legs }) => legs.flatMap(({ test }) => test ?? [])))];
  const [outline, library, { loaded, ...around }, agreed] = await Promise.all([
    loadOutline(context),
    loadLibrary(context),
    loadScenarioSurroundings(
      context,
      scenarios.map(({ code }) => code),
    ),
    loadAgreedVersions(context, codes),
  ]);
  return {
    ...{ map: toSurroundings(outline), tests: library.around.tests, scenarios: around },
    drawn: new Map([...agreed, ...loaded.flatMap(listNamedVersions)]),
  };
}

/** Tests as legs are drawn with them that name no version: the newest agreed one, else the retired one. One query. */
async function loadAgreedVersions({ db, actor }: ReadContext, codes: readonly string[]): Promise<Map<string, DrawnTest>> {
  if (codes.length === 0) return new Map();
  const rows = await db
    .selectDistinctOn([testVersions.testId], { test: tests, version: testVersions })
    .from(testVersions)
    .innerJoin(tests, eq(tests.id, testVersions.testId))
    .where(and(eq(tests.programmeId, actor.programmeId), inArray(tests.code, [...codes]), ne(testVersions.state, 'draft')))
    .orderBy(testVersions.testId, desc(eq(testVersions.state, 'agreed')), desc(testVersions.number));
  return new Map(
    rows.map(({ test, version }) => [
      toTestKey({ test: test.code, version: null }) ?? '',
      toDrawn(test, { version, entry: undefined, isRetired: version.state === 'retired' }),
    ]),
  );
}

/** What legs that are there name a version of. */
const listNamedVersions = (loaded: LoadedScenario): [string, DrawnTest][] =>
  [...listDrawn(loaded)].flatMap(([key, { document, drawn }]): [string, DrawnTest][] =>
    document.version === null || !drawn ? [] : [[key, drawn]],
  );
