import { AppError } from '@kindred-baton/contracts/errors';
import type { ScenarioComparisonView } from '@kindred-baton/core/imports/compare-scenario-file';
import { createScenarioComparer } from '@kindred-baton/core/imports/compare-scenario-file';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import type { ScenarioFile } from '@kindred-baton/core/scenarios/scenario-file';
import { loadTree } from '../map/load-tree.ts';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import { createScenario } from '../scenarios/change-scenarios.ts';
import { editScenario } from '../scenarios/edit-scenario.ts';
import { loadScenarioSurroundings } from './load-scenario-surroundings.ts';

/** What the person says of the file: under which code it is taken in, called what, and where. */
interface ScenarioTarget {
  readonly code: string;
  readonly name: string;
  readonly node: string;
}

export interface ScenarioImportComparison {
  readonly target: ScenarioTarget;
  readonly isNew: boolean;
  readonly comparison: ScenarioComparisonView;
  readonly problems: readonly string[];
  readonly warnings: readonly string[];
  /** How many edits it takes; none: the file says what is there. */
  readonly edits: number;
}

interface ImportInput {
  readonly file: ScenarioFile;
  readonly target: Partial<ScenarioTarget>;
}

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
    if (seen.isNew) await createScenario.run(context, { ...target, edits });
    else if (edits.length > 0) await editScenario.run(context, { code: target.code, edits });
    return { code: target.code };
  },
};

async function lookAt(
  context: Context | ReadContext,
  { file, target }: ImportInput,
): Promise<{ seen: ScenarioImportComparison; edits: readonly ScenarioEdit[] }> {
  const wanted = { code: target.code ?? file.code ?? '', name: target.name ?? file.name ?? '', node: target.node ?? file.node ?? '' };
  const [around, tree] = await Promise.all([loadScenarioSurroundings(context, [wanted.code]), loadTree(context)]);
  const name = around.scenarios.get(wanted.code)?.name ?? wanted.name;
  const { isNew, edits, comparison, problems, warnings } = createScenarioComparer(around)(file, { code: wanted.code, name });
  return {
    edits,
    seen: {
      ...{ target: { ...wanted, name }, isNew, edits: edits.length, comparison, warnings },
      problems: [...problems.map(({ message }) => message), ...(isNew ? findTargetProblems(wanted, tree.byCode) : [])],
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
