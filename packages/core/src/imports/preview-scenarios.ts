import { findFindings } from '../scenarios/findings/rules.ts';
import { wireChain } from '../scenarios/wire-chain.ts';
import { deriveInterface } from '../tests/interface.ts';
import { collectColumns } from './collect-columns.ts';
import type { ImportDocument, ImportedScenario } from './import-document.ts';

export interface ScenarioPreview {
  readonly code: string;
  readonly name: string;
  readonly legs: number;
  readonly openLegs: number;
  readonly rows: number;
  /** What the wiring says of it, errors and warnings. Legs whose tests are in the library already are not wired here. */
  readonly findings: string[];
}

/** What the imported scenarios would look like once they are stored. Cost O(legs × values). */
export function previewScenarios(document: ImportDocument): ScenarioPreview[] {
  return document.scenarios.map((scenario) => ({
    code: scenario.code,
    name: scenario.name,
    legs: scenario.legs.length,
    openLegs: scenario.legs.filter((leg) => leg.test === null).length,
    rows: document.rows.filter((row) => row.scenario === scenario.code).length,
    findings: findWiring(document, scenario),
  }));
}

function findWiring(document: ImportDocument, scenario: ImportedScenario): string[] {
  const testOf = new Map(document.tests.map((test) => [test.code, test]));
  if (scenario.legs.some((leg) => leg.test !== null && !testOf.has(leg.test))) return [];
  const legs = scenario.legs.map((leg, index) => {
    const test = leg.test === null ? undefined : testOf.get(leg.test);
    const typed = document.fields.filter((field) => field.test === leg.test).map(({ field }) => field);
    const { needs, gives } = deriveInterface(test?.steps.map(({ step }) => step) ?? [], { needs: typed, gives: typed });
    return { id: String(index), title: leg.title || (test?.name ?? ''), isOpen: leg.test === null, needs, gives };
  });
  const own = document.rows.filter((row) => row.scenario === scenario.code);
  const columns = collectColumns(
    own,
    document.fields.map(({ field }) => field),
  );
  return findFindings({ chain: wireChain(legs, columns), isInOpenCycle: false })
    .filter((finding) => finding.weight !== 'note')
    .map((finding) => finding.message);
}
