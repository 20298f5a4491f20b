import { findRepeats, findUnknown } from './find-repeats.ts';
import type { ImportDocument, ImportSurroundings } from './import-document.ts';
import type { ImportProblem } from '../tables/place.ts';

export function checkTests({ nodes, tests }: ImportDocument, around: ImportSurroundings): ImportProblem[] {
  const codes = new Set([...around.nodes, ...nodes].map(({ code }) => code));
  return [
    ...findRepeats('Test', tests, around.tests),
    ...findUnknown(
      'Team',
      tests.map(({ place, team }) => ({ place, name: team })),
      around.teams,
    ),
    ...findUnknown(
      'Application',
      tests.map(({ place, application }) => ({ place, name: application })),
      around.applications,
    ),
    ...tests
      .filter(({ activity }) => !codes.has(activity))
      .map(({ place, code, activity }) => ({
        ...place,
        column: 'Activity',
        message: `Activity ${activity} of test ${code} is not in this file and not on the map.`,
      })),
    ...tests.filter(({ steps }) => steps.length === 0).map(({ place, code }) => ({ ...place, message: `Test ${code} has no steps.` })),
  ];
}

export function checkScenarios({ nodes, tests, scenarios }: ImportDocument, around: ImportSurroundings): ImportProblem[] {
  const places = new Set([...around.nodes, ...nodes].map(({ code }) => code));
  const known = new Set([...around.tests, ...tests].map(({ code }) => code));
  const legs = scenarios.flatMap((scenario) => scenario.legs);
  return [
    ...findRepeats('Scenario', scenarios, around.scenarios),
    ...findUnknown(
      'Team',
      legs.map(({ place, team }) => ({ place, name: team })),
      around.teams,
    ),
    ...scenarios
      .filter(({ process }) => !places.has(process))
      .map(({ place, code, process }) => ({
        ...place,
        column: 'Process',
        message: `Process ${process} of scenario ${code} is not in this file and not on the map.`,
      })),
    ...legs
      .filter(({ test }) => test !== null && !known.has(test))
      .map(({ place, test }) => ({
        ...place,
        column: 'Test',
        message: `Test ${test} is not in this file and not in the library. Leave the cell empty and fill Open leg to plan it.`,
      })),
  ];
}
