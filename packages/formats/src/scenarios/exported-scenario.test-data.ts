import { toLegView } from '@kindred-baton/core/scenarios/draw-legs';
import { findFindings } from '@kindred-baton/core/scenarios/findings/rules';
import type { ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import type { ExportedScenario } from '@kindred-baton/core/scenarios/scenario-file';
import { toScenarioFile } from '@kindred-baton/core/scenarios/scenario-file';
import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import type { Field } from '@kindred-baton/core/values/field';

const field = (name: string, more: Partial<Field> = {}): Field => ({ name, type: 'text', required: true, ...more });

export const TESTS = {
  'CUS-01': {
    name: 'Take the <application>',
    needs: [field('Band')],
    gives: [field('Application no.', { type: 'code', pattern: '\\AP-99999' })],
  },
  'BIL-01': {
    name: 'Price the quote',
    needs: [field('Application no.'), field('Pipe length', { type: 'number' })],
    gives: [field('Quote no.')],
  },
};
export const NAMES = {
  teams: [
    { id: 't1', name: 'Customer & desk' },
    { id: 't2', name: 'Billing' },
  ],
  personas: [{ id: 'p1', name: 'Accountant' }],
};

/** A scenario as the writers get it, with everything computed of it. */
export function toExported(document: ScenarioDocument): ExportedScenario {
  const known = new Map(Object.entries(TESTS));
  const views = document.legs.map((leg) => {
    const test = known.get(leg.test ?? '');
    return toLegView(leg, test && { ...test, team: null, ownValues: {}, place: null, isRetired: false });
  });
  const chain = wireChain(views, document.columns);
  return {
    ...{ path: ['New supply'], state: 'sketch', chain, findings: findFindings({ chain, isInOpenCycle: false }) },
    file: toScenarioFile(document, { code: 'NS-S9', name: 'A “small” business & a <meter>', node: 'NS' }, NAMES),
    legs: document.legs.map((leg, index) => {
      const { title = '', needs = [], gives = [] } = views[index] ?? {};
      const test = known.get(leg.test ?? '');
      return {
        ...{ title, needs, gives, lane: NAMES.teams.find(({ id }) => id === leg.team)?.name ?? null },
        test:
          test && leg.test !== null
            ? { code: leg.test, name: test.name, version: 1, state: 'agreed', minutes: 15, steps: [{ do: 'press', target: 'Save' }] }
            : null,
      };
    }),
  };
}

const [a, b, c] = [
  '5b9c3f0e-0000-4000-8000-00000000000a',
  '5b9c3f0e-0000-4000-8000-00000000000b',
  '5b9c3f0e-0000-4000-8000-00000000000c',
] as const;
export const DOCUMENT: ScenarioDocument = {
  legs: [
    createLeg({ id: a, test: 'CUS-01', version: 2, team: 't1', persona: 'p1', note: 'Ring first;\n<then> type' }),
    createLeg({
      ...{ id: b, test: 'BIL-01', team: 't2', after: [a], waitDays: 3, otherPersonThan: [a] },
      wires: [
        { need: 'Application no.', from: { kind: 'leg', leg: a, gives: 'Application no.', convert: true } },
        { need: 'Pipe length', from: { kind: 'fixed', value: '14.5' } },
        { need: 'No longer needed', from: { kind: 'column', column: 'Band' } },
      ],
    }),
    createLeg({
      id: c,
      title: 'Record the deposit',
      after: [],
      samePersonAs: b,
      needs: [field('Quote no.')],
      gives: [field('Deposit due', { type: 'money' })],
    }),
  ],
  columns: [field('Band', { type: 'choice', choices: ['A', 'B|C'.replace('|', '/')], example: 'A' })],
  rows: [{ id: 'r1', name: 'Small | business', values: { Band: 'A' } }],
  classes: null,
};
