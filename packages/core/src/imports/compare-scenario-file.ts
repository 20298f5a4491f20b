import type { ComparisonLine } from '../scenarios/compare-scenarios.ts';
import { compareScenarios, toComparisonLines } from '../scenarios/compare-scenarios.ts';
import { diffDocuments } from '../scenarios/diff-documents.ts';
import type { ScenarioEdit } from '../scenarios/edit-scenario.ts';
import type { ScenarioDocument } from '../scenarios/scenario-document.ts';
import { EMPTY_DOCUMENT } from '../scenarios/scenario-document.ts';
import type { LegProblem, ScenarioFile, ScenarioNames } from '../scenarios/scenario-file.ts';
import { readScenarioFile } from '../scenarios/scenario-file.ts';
import { tellScenario } from '../scenarios/tell-scenario.ts';

/** A scenario as it stands. */
export interface StoredScenario {
  readonly name: string;
  /** Code of the node that it belongs to. */
  readonly node: string;
  readonly document: ScenarioDocument;
}

export interface ScenarioSurroundings extends ScenarioNames {
  /** With the ids of their teams. */
  readonly tests: readonly { readonly code: string; readonly name: string; readonly team: string | null }[];
  readonly scenarios: ReadonlyMap<string, StoredScenario>;
  readonly createId: () => string;
}

export interface ScenarioComparisonView {
  readonly before: string;
  readonly after: string;
  readonly legs: ComparisonLine[];
  readonly data: string[];
  readonly isSame: boolean;
}

export interface ScenarioFileComparison {
  readonly isNew: boolean;
  /** As it would stand then. */
  readonly document: ScenarioDocument;
  /** What makes it so; none: the file says what is there. */
  readonly edits: readonly ScenarioEdit[];
  readonly comparison: ScenarioComparisonView;
  readonly problems: readonly LegProblem[];
  readonly warnings: readonly string[];
}

/** Compares scenarios in words with those that are there under their codes, leg by leg. Cost O(names) once, O(legs²) for each. */
export function createScenarioComparer(around: ScenarioSurroundings) {
  const { teams, personas, tests } = around;
  const words = {
    teamOf: new Map(teams.map(({ id, name }) => [id, name])),
    personaOf: new Map(personas.map(({ id, name }) => [id, name])),
    testOf: new Map(tests.map(({ code, name, team }) => [code, { name, team }])),
  };
  return (file: ScenarioFile, { code, name }: { readonly code: string; readonly name: string }): ScenarioFileComparison => {
    const before = around.scenarios.get(code);
    const was = { name: before ? 'As it is' : 'Nothing yet', document: before?.document ?? EMPTY_DOCUMENT };
    const { document, problems, warnings } = readScenarioFile(file, { ...around, before: before?.document ?? null });
    const { legs, data, isSame } = compareScenarios(tellScenario(was, words), tellScenario({ name, document }, words));
    return {
      ...{ isNew: before === undefined, document, problems, warnings, edits: diffDocuments(was.document, document) },
      comparison: { before: was.name, after: name, legs: toComparisonLines(legs), data: [...data], isSame },
    };
  };
}
