import { describe, expect, it } from 'vitest';
import type { Field, FieldType } from '../values/field.ts';
import type { DrawnTest } from './draw-legs.ts';
import { toLegView } from './draw-legs.ts';
import { findWrongCells, whyNotAgreed } from './check-cells.ts';
import { editScenario } from './edit-scenario.ts';
import { findFindings, findWaysOut } from './findings/rules.ts';
import type { LegDocument, ScenarioDocument } from './scenario-document.ts';
import { createLeg } from './scenario-document.ts';
import { wireChain } from './wire-chain.ts';

const field = (name: string, type: FieldType = 'text'): Field => ({ name, type, required: true });
const test = (needs: Field[], gives: Field[], more: Partial<DrawnTest> = {}): DrawnTest => ({
  ...{ name: 'A test', team: null, ownValues: {}, place: null, isRetired: false },
  ...{ needs, gives },
  ...more,
});
const look = (document: ScenarioDocument, tests: Record<string, DrawnTest>) => {
  const chain = wireChain(
    document.legs.map((leg) => toLegView(leg, tests[leg.test ?? ''])),
    document.columns,
  );
  return { chain, findings: findFindings({ chain, isInOpenCycle: false }) };
};

/** Tries every way out of a finding; the labels, with what is left of the rule afterwards. */
function tryOut(
  rule: string,
  tests: Record<string, DrawnTest>,
  more: Record<string, Partial<LegDocument>> = {},
  columns: Field[] = [],
): string[] {
  const legs = Object.keys(tests).map((id) => createLeg({ id, test: id, ...more[id] }));
  const document: ScenarioDocument = { legs, columns, rows: [], classes: null };
  const { chain, findings } = look(document, tests);
  const finding = findings.find((each) => each.rule === rule);
  if (!finding) throw new Error(`There is no ${rule} among ${findings.map((each) => each.rule).join(', ')}.`);
  return findWaysOut(finding, chain).map((way) => {
    if (way.kind === 'look') return `${way.label} …`;
    const edited = editScenario(document, way.edits);
    if (!edited.ok) return `${way.label}: ${edited.message}`;
    const left = look(edited.document, tests).findings.filter(
      (each) => each.rule === rule && each.leg === finding.leg && each.value === finding.value,
    );
    return left.length === 0 ? way.label : `${way.label}: still there`;
  });
}

describe('ways out of a finding', () => {
  it('end a need that nothing gives: the likely name, a column, a leg', () => {
    const tests = { a: test([], [field('Serial of the meter'), field('Permit no.')]), b: test([field('Meter serial')], []) };
    expect(tryOut('never-given', tests)).toEqual(['Take Serial of the meter of leg 1', 'Add a column for it', 'Add a leg that gives it …']);
    expect(tryOut('never-given', { b: test([field('Tariff band')], []) }, {}, [field('Tariff')])).toContain('Take the column Tariff');
  });

  it('wire anew what was wired to something that is gone', () => {
    const lost = { b: { wires: [{ need: 'Quote no.', from: { kind: 'column' as const, column: 'Gone' } }] } };
    expect(tryOut('never-given', { b: test([field('Quote no.')], []) }, lost)).toContain('Add a column for it');
  });

  it('end a value that is given only later', () => {
    const tests = { a: test([field('Quote no.')], []), b: test([], [field('Quote no.')]) };
    expect(tryOut('given-later', tests)).toEqual(['Move leg 2 before it', 'Add a column for it', 'Add a leg that gives it …']);
  });

  it('convert between types, or take a column', () => {
    const tests = { a: test([], [field('Due', 'text')]), b: test([field('Due', 'money')], []) };
    expect(tryOut('types-differ', tests)).toEqual(['Convert it to money', 'Take it from a column', 'Add a leg that gives it …']);
  });

  it('choose between two givers', () => {
    const quote = test([], [field('Quote no.')]);
    expect(tryOut('two-givers', { a: quote, b: quote, c: test([field('Quote no.')], []) })).toEqual(['Keep leg 2', 'Take it from leg 1']);
  });

  it('leave a circle, the map’s order, a rule about people', () => {
    const none = test([], []);
    expect(tryOut('waits-in-a-circle', { a: none, b: none }, { a: { after: ['b'] } })).toEqual(['Let it wait for the leg before it']);
    const placed = (order: number) => test([], [], { name: `Activity ${order}`, place: { parent: 'NS-1', order } });
    expect(tryOut('against-the-map', { a: placed(2), b: placed(1) })).toEqual(['Move it before Activity 2']);
    const teams = { a: test([], [], { team: 'x' }), b: test([], [], { team: 'y' }) };
    expect(tryOut('same-person', teams, { b: { samePersonAs: 'a' } })).toEqual(['Let anybody do it']);
    expect(tryOut('same-person', { a: none, b: none }, { b: { samePersonAs: 'a', otherPersonThan: ['a'] } })).toEqual([
      'Let anybody do it',
    ]);
  });

  it('show where another test is found', () => {
    expect(tryOut('retired-test', { a: test([], [], { isRetired: true }) })).toEqual(['Put another test in its place …']);
    expect(tryOut('open-leg', { a: test([], []) }, { a: { test: null, title: 'Open' } })).toEqual(['Find a test that fits …']);
  });
});

describe('findings', () => {
  it('name legs as people count them', () => {
    const messageOf = (rule: string, tests: Record<string, DrawnTest>, more: Record<string, Partial<LegDocument>> = {}) => {
      const legs = Object.keys(tests).map((id) => createLeg({ id, test: id, ...more[id] }));
      return look({ legs, columns: [], rows: [], classes: null }, tests).findings.find((each) => each.rule === rule)?.message;
    };
    const none = test([], []);
    expect(messageOf('same-person', { a: none, b: none }, { b: { samePersonAs: 'a', otherPersonThan: ['a'] } })).toMatch(
      /^Leg 2 is to be done by the same person as leg 1, /,
    );
    const placed = (order: number) => test([], [], { place: { parent: 'P', order } });
    expect(messageOf('against-the-map', { a: placed(2), b: placed(1) })).toMatch(/^Leg 2 comes after /);
  });
});

describe('values of data rows that are not of their column’s type', () => {
  const length = field('Pipe length', 'number');
  const document: ScenarioDocument = {
    legs: [createLeg({ id: 'a', test: 'a' }), createLeg({ id: 'b', test: 'b' })],
    columns: [length, field('Note')],
    rows: [
      { id: '1', name: 'Short', values: { 'Pipe length': '12.5', Note: 'long' } },
      { id: '2', name: 'Long', values: { 'Pipe length': 'long' } },
      { id: '3', name: 'Open', values: { 'Pipe length': '' } },
      { id: '4', name: 'Later', values: { 'Pipe length': '{today + 3 days}' } },
      { id: '5', name: 'Below', values: { 'Pipe length': 'none' } },
      { id: '6', name: 'Longer', values: { 'Pipe length': 'longer' } },
    ],
    classes: {
      ...{ strength: 2, forbidden: [], mustHave: [] },
      columns: [{ name: 'pipe length', classes: [{ value: 'None', kind: 'invalid' }] }],
    },
  };
  const chain = wireChain(
    [test([], []), test([length], [])].map((drawn, at) => toLegView(document.legs[at]!, drawn)),
    document.columns,
  );
  const findIn = (data: ScenarioDocument) =>
    findFindings({ chain, isInOpenCycle: false, data }).filter(({ rule }) => rule === 'wrong-cells');

  it('are one finding a column, at the leg that takes it; what is made later and what is there to be refused is none', () => {
    const found = findIn(document);
    expect(found.map(({ leg, weight, message }) => [leg, weight, message])).toEqual([
      ['b', 'warning', 'Data row “Long”: Pipe length should be a number such as 12.50; “long” is not one. So is 1 more.'],
    ]);
    expect(findFindings({ chain, isInOpenCycle: false }).some(({ rule }) => rule === 'wrong-cells')).toBe(false);
    const [look, edit] = findWaysOut(found[0]!, chain);
    expect(look?.label).toBe('Open the data rows');
    const edited = edit?.kind === 'edit' ? editScenario(document, edit.edits) : undefined;
    expect(edited?.ok && edited.document.columns[0]).toEqual(field('Pipe length', 'text'));
    expect(edited?.ok && findWrongCells(edited.document)).toEqual([]);
  });

  it('keep a scenario from being agreed, as open legs do, and having none', () => {
    expect(whyNotAgreed(document)).toBe(
      'has 2 values that are not of their column’s type; the first is in data row “Long”: Pipe length should be a number such as 12.50; “long” is not one.',
    );
    expect(whyNotAgreed({ ...document, rows: document.rows.slice(0, 2) })).toMatch(/^has a value that is not of its column’s type: “Long”/);
    expect(whyNotAgreed({ ...document, rows: document.rows.slice(0, 1) })).toBeNull();
    expect(whyNotAgreed({ ...document, legs: [createLeg({ id: 'c', test: null, title: 'Open' })] })).toMatch(/^has 1 open leg;/);
    expect(whyNotAgreed({ ...document, legs: [] })).toBe('has no legs yet.');
  });
});

describe('ways out of what is not there any more', () => {
  it('are none: the leg is gone, the need is gone, or it fits by now', () => {
    const document: ScenarioDocument = {
      legs: [createLeg({ id: 'a', test: 'a' }), createLeg({ id: 'b', test: 'b' })],
      columns: [],
      rows: [],
      classes: null,
    };
    const { chain } = look(document, { a: test([], [field('Due', 'date')]), b: test([field('Due', 'money')], []) });
    const finding = { rule: 'types-differ', weight: 'error' as const, leg: 'b', value: 'Due', message: '' };
    expect(findWaysOut(finding, chain)).toHaveLength(3);
    expect(findWaysOut({ ...finding, leg: 'gone' }, chain)).toEqual([]);
    expect(findWaysOut({ ...finding, value: 'Gone' }, chain)).toEqual([]);
    expect(findWaysOut({ ...finding, value: undefined }, chain)).toEqual([]);
    const fits = look(document, { a: test([], [field('Due', 'money')]), b: test([field('Due', 'money')], []) }).chain;
    expect(findWaysOut(finding, fits)).toEqual([]);
  });
});
