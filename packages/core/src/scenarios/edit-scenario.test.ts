import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Field } from '../values/field.ts';
import type { ScenarioEdit } from './edit-scenario.ts';
import { editScenario } from './edit-scenario.ts';
import type { LegDocument, ScenarioDocument } from './scenario-document.ts';
import { createLeg } from './scenario-document.ts';

const column = (name: string): Field => ({ name, type: 'text' });
const scenario = (legs: LegDocument[] = [], more: Partial<ScenarioDocument> = {}): ScenarioDocument => ({
  ...{ columns: [], rows: [], classes: null, legs },
  ...more,
});
const make = (document: ScenarioDocument, ...edits: ScenarioEdit[]) => {
  const edited = editScenario(document, edits);
  if (!edited.ok) throw new Error(edited.message);
  return edited;
};
const [a, b, c] = ['a', 'b', 'c'].map((id) => createLeg({ id, title: `Leg ${id}` }));
const three = scenario([
  a!,
  { ...b!, wires: [{ need: 'Quote no.', from: { kind: 'leg', leg: 'a', gives: 'Quote no.' } }], after: ['a'] },
  { ...c!, samePersonAs: 'a', otherPersonThan: ['a', 'b'], after: ['a', 'b'] },
]);

describe('editing a scenario', () => {
  it('takes a leg out with all that names it, and brings it back whole', () => {
    const { document, undo } = make(three, { kind: 'remove leg', leg: 'a' });
    expect(document.legs).toEqual([
      { ...b, wires: [], after: null },
      { ...c, samePersonAs: null, otherPersonThan: ['b'], after: ['b'] },
    ]);
    expect(make(document, ...undo).document).toEqual(three);
  });

  it('joins what two people do at once', () => {
    const mine: ScenarioEdit = { kind: 'move leg', leg: 'c', before: 'a' };
    const theirs: ScenarioEdit[] = [
      { kind: 'remove leg', leg: 'b' },
      { kind: 'add leg', leg: createLeg({ id: 'd' }), before: 'c' },
    ];
    expect(make(three, ...theirs, mine).document.legs.map(({ id }) => id)).toEqual(['c', 'a', 'd']);
    expect(make(three, mine, ...theirs).document.legs.map(({ id }) => id)).toEqual(['d', 'c', 'a']);
  });

  it('says both words where two people change the same, and makes none of the edits', () => {
    const theirs = make(three, { kind: 'change leg', leg: 'a', change: { note: 'Ring first' }, was: { note: '' } }).document;
    const edits: ScenarioEdit[] = [
      { kind: 'remove leg', leg: 'c' },
      { kind: 'change leg', leg: 'a', change: { note: 'Mind the dog' }, was: { note: '' } },
    ];
    expect(editScenario(theirs, edits)).toEqual({
      ...{ ok: false, edit: 1, isConflict: true },
      message:
        'Somebody else has changed the note of leg 1 meanwhile. There it says “Ring first”, here “Mind the dog”. Look at it and change it again if need be.',
    });
  });

  it('renames a column with its values, its wires and its classes', () => {
    const document = scenario([{ ...a!, wires: [{ need: 'Band', from: { kind: 'column', column: 'Band' } }] }], {
      columns: [column('Band'), column('Length')],
      rows: [{ id: 'r', name: 'Small', values: { Band: 'A', Length: '5' } }],
      classes: { strength: 2, columns: [{ name: 'Band', classes: [] }], forbidden: [{ Band: 'A', Length: '5' }], mustHave: [] },
    });
    const { document: renamed, undo } = make(document, { kind: 'change column', column: 'Band', change: column('Tariff') });
    expect(renamed.legs[0]?.wires).toEqual([{ need: 'Band', from: { kind: 'column', column: 'Tariff' } }]);
    expect(renamed.rows[0]?.values).toEqual({ Tariff: 'A', Length: '5' });
    expect(renamed.classes).toMatchObject({ columns: [{ name: 'Tariff' }], forbidden: [{ Tariff: 'A', Length: '5' }] });
    expect(make(renamed, ...undo).document).toEqual(document);
  });

  it('is taken back whole, whatever was done (seed 4217)', () => {
    const ids = fc.constantFrom('a', 'b', 'c', 'd', 'e');
    const place = fc.option(ids, { nil: null });
    const rowIds = fc.constantFrom('r', 's', 't');
    const columns = fc.constantFrom('Band', 'Length', 'Tariff');
    const edits: fc.Arbitrary<ScenarioEdit> = fc.oneof(
      fc.record({ kind: fc.constant('add leg' as const), leg: ids.map((id) => createLeg({ id })), before: place }),
      fc.record({ kind: fc.constant('move leg' as const), leg: ids, before: place }),
      fc.record({ kind: fc.constant('remove leg' as const), leg: ids }),
      fc.record({
        kind: fc.constant('change leg' as const),
        leg: ids,
        change: fc.record({ after: fc.option(fc.uniqueArray(ids), { nil: null }), waitDays: fc.nat(9) }),
      }),
      fc.record({ kind: fc.constant('add column' as const), column: columns.map(column), before: fc.option(columns, { nil: null }) }),
      fc.record({ kind: fc.constant('change column' as const), column: columns, change: columns.map(column) }),
      fc.record({ kind: fc.constant('remove column' as const), column: columns }),
      fc.record({
        kind: fc.constant('add row' as const),
        row: rowIds.map((id) => ({ id, name: 'Row', values: {} })),
        before: fc.option(rowIds, { nil: null }),
      }),
      fc.record({ kind: fc.constant('change row' as const), row: rowIds, values: fc.dictionary(columns, fc.constantFrom('1', '2')) }),
      fc.record({ kind: fc.constant('remove row' as const), row: rowIds }),
    );
    const plain = ({ rows, ...document }: ScenarioDocument) =>
      JSON.stringify({
        ...document,
        // An empty cell and none are the same.
        rows: rows.map((row) => ({
          ...row,
          values: Object.entries(row.values)
            .filter(([, value]) => value !== '')
            .sort(),
        })),
      });
    fc.assert(
      fc.property(fc.array(edits, { maxLength: 14 }), (list) => {
        const done = list.reduce(
          ({ document, undo }, edit) => {
            const edited = editScenario(document, [edit]);
            return edited.ok ? { document: edited.document, undo: [...edited.undo, ...undo] } : { document, undo };
          },
          { document: three, undo: [] as ScenarioEdit[] },
        );
        expect(plain(make(done.document, ...done.undo).document)).toBe(plain(three));
      }),
      { seed: 4217, numRuns: 300 },
    );
  });
});
