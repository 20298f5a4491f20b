import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ComparisonView } from '@kindred-baton/contracts/scenarios/reuse';
import { compareScenarios } from '@kindred-baton/core/scenarios/compare-scenarios';
import { diffDocuments } from '@kindred-baton/core/scenarios/diff-documents';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import type { ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import type { ScenarioFile } from '@kindred-baton/core/scenarios/scenario-file';
import { readScenarioFile } from '@kindred-baton/core/scenarios/scenario-file';
import { createId } from '../ids.ts';
import { loadTree } from '../map/load-tree.ts';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import { personas } from '../schema/personas.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { createScenario } from '../scenarios/change-scenarios.ts';
import { loadWords, toCompared, toLegView } from '../scenarios/compare-scenario.ts';
import { toDocument } from '../scenarios/document.ts';
import { editScenario } from '../scenarios/edit-scenario.ts';
import { loadChains } from '../scenarios/load-chains.ts';

/** What the person says of the file: under which code it is taken in, called what, and where. */
interface ScenarioTarget {
  readonly code: string;
  readonly name: string;
  readonly node: string;
}

export interface ScenarioImportComparison {
  readonly target: ScenarioTarget;
  readonly isNew: boolean;
  readonly comparison: ComparisonView;
  readonly problems: readonly string[];
  readonly warnings: readonly string[];
  /** How many edits it takes; none: the file says what is there. */
  readonly edits: number;
}

interface ImportInput {
  readonly file: ScenarioFile;
  readonly target: Partial<ScenarioTarget>;
}

const EMPTY: ScenarioDocument = { legs: [], columns: [], rows: [], classes: null };

/** A scenario’s file beside what is there under its code. */
export const compareScenarioImport: Query<ImportInput, ScenarioImportComparison> = {
  right: 'edit scenarios',
  read: async (context, input) => (await lookAt(context, input)).seen,
};

/** Takes the file in: a new sketch, or the edits that make the scenario that is there what the file says. All of it or nothing. */
export const storeScenarioImport: Operation<
  ImportInput & { readonly isSeen: (seen: ScenarioImportComparison) => boolean },
  { code: string }
> = {
  right: 'edit scenarios',
  run: async (context, { isSeen, ...input }) => {
    const { seen, edits } = await lookAt(context, input);
    const [problem] = seen.problems;
    if (problem !== undefined) throw new AppError('invalid', problem);
    if (!isSeen(seen)) throw new AppError('conflict', 'The scenario has changed since the file was looked at. Look at it again.');
    const { target } = seen;
    if (seen.isNew) await createScenario.run(context, { ...target, edits: edits as never });
    else if (edits.length > 0) await editScenario.run(context, { code: target.code, edits: edits as never });
    return { code: target.code };
  },
};

async function lookAt(
  context: Context | ReadContext,
  { file, target }: ImportInput,
): Promise<{ seen: ScenarioImportComparison; edits: ScenarioEdit[] }> {
  const wanted = { code: target.code ?? file.code ?? '', name: target.name ?? file.name ?? '', node: target.node ?? file.node ?? '' };
  const [lists, words, before, tree] = await Promise.all([
    loadLists(context),
    loadWords(context),
    findBefore(context, wanted.code),
    loadTree(context),
  ]);
  const reading = readScenarioFile(file, { ...lists, before: before?.document ?? null, createId: () => createId<'leg'>() });
  const edits = diffDocuments(before?.document ?? EMPTY, reading.document);
  const name = before?.name ?? wanted.name;
  const { legs, data, isSame } = compareScenarios(
    toCompared({ name: before ? 'As it is' : 'Nothing yet', document: before?.document ?? EMPTY }, words),
    toCompared({ name, document: reading.document }, words),
  );
  return {
    edits,
    seen: {
      ...{ target: { ...wanted, name }, isNew: before === null, edits: edits.length, warnings: reading.warnings },
      comparison: { before: before ? 'As it is' : 'Nothing yet', after: name, legs: legs.map(toLegView), data: [...data], isSame },
      problems: [...reading.problems, ...(before === null ? findTargetProblems(wanted, tree.byCode) : [])],
    },
  };
}

/** A new scenario needs a code, a name and a place. */
function findTargetProblems({ code, name, node }: ScenarioTarget, nodes: ReadonlyMap<string, unknown>): string[] {
  return [
    ...(code === ''
      ? ['Give the scenario a code.']
      : /^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/.test(code)
        ? []
        : [`“${code}” is no code: letters, digits, points, hyphens and underscores, at most 40.`]),
    ...(name === '' ? ['Give the scenario a name.'] : []),
    ...(node === '' ? ['Say where on the map it belongs.'] : nodes.has(node) ? [] : [`There is no node ${node} on the map.`]),
  ];
}

async function findBefore(context: Context | ReadContext, code: string): Promise<{ name: string; document: ScenarioDocument } | null> {
  const { db, actor } = context;
  const [row] = await db
    .select({ id: scenarios.id })
    .from(scenarios)
    .where(and(eq(scenarios.programmeId, actor.programmeId), eq(scenarios.code, code)));
  if (!row) return null;
  const { scenarios: loaded } = await loadChains(context, [row.id]);
  const [found] = loaded;
  return found ? { name: found.scenario.name, document: toDocument(found) } : null;
}

async function loadLists({ db, actor }: Context | ReadContext) {
  const here = actor.programmeId;
  const [teamRows, personaRows, testRows] = await Promise.all([
    db.select({ id: teams.id, name: teams.name }).from(teams).where(eq(teams.programmeId, here)),
    db.select({ id: personas.id, name: personas.name }).from(personas).where(eq(personas.programmeId, here)),
    db.select({ code: tests.code, name: tests.name }).from(tests).where(eq(tests.programmeId, here)),
  ]);
  return { teams: teamRows, personas: personaRows, tests: testRows };
}
