import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { diffDocuments } from './diff-documents.ts';
import { editScenario } from './edit-scenario.ts';
import type { LegDocument, ScenarioDocument } from './scenario-document.ts';
import { createLeg } from './scenario-document.ts';
import type { FileLeg, ScenarioFile } from './scenario-file.ts';
import { readScenarioFile, toScenarioFile } from './scenario-file.ts';

const TEAMS = [{ id: 't1', name: 'Billing' }];
const PERSONAS = [{ id: 'p1', name: 'Accountant' }];
const TESTS = [{ code: 'BIL-01', name: 'Price the quote' }];
const context = (before: ScenarioDocument | null = null) => {
  let next = 0;
  return { teams: TEAMS, personas: PERSONAS, tests: TESTS, before, createId: () => `new${(next += 1)}` };
};
const fileLeg = (leg: Partial<FileLeg> & Pick<FileLeg, 'key'>): FileLeg => ({
  ...{ test: null, version: null, title: null, lane: null, persona: null, after: null, wires: [], waitDays: 0 },
  ...{ samePersonAs: null, otherPersonThan: [], note: '', needs: [], gives: [] },
  ...leg,
});
const file = (legs: FileLeg[]): ScenarioFile => ({ code: 'S', name: 'S', node: null, legs, data: null });

describe('a scenario as a file', () => {
  const document: ScenarioDocument = {
    legs: [
      createLeg({ id: 'a', test: 'BIL-01', version: 2, team: 't1', persona: 'p1', note: 'Ring first' }),
      createLeg({
        ...{ id: 'b', title: 'Pay', after: ['a'], waitDays: 3, samePersonAs: 'a', otherPersonThan: ['a'] },
        wires: [{ need: 'Quote no.', from: { kind: 'leg', leg: 'a', gives: 'Quote no.', convert: true } }],
        needs: [{ name: 'Quote no.', type: 'text' }],
      }),
    ],
    columns: [{ name: 'Band', type: 'choice', choices: ['A', 'B'] }],
    rows: [{ id: 'r', name: 'Small', values: { Band: 'A' } }],
    classes: { strength: 2, columns: [], forbidden: [], mustHave: [] },
  };

  it('and read again is the same scenario: nothing to change', () => {
    const written = toScenarioFile(document, { code: 'S', name: 'S', node: 'NS' }, { teams: TEAMS, personas: PERSONAS });
    const read = readScenarioFile(written, context(document));
    expect(read).toEqual({ document, problems: [], warnings: [] });
    expect(diffDocuments(document, read.document)).toEqual([]);
  });

  it('knows legs again by test and words where it has no keys of ours', () => {
    const read = readScenarioFile(
      file([fileLeg({ key: 'x', title: 'pay' }), fileLeg({ key: 'y', title: 'Price the quote' })]),
      context(document),
    );
    expect(read.document.legs.map(({ id, test }) => [id, test])).toEqual([
      ['b', null],
      ['new1', 'BIL-01'],
    ]);
    expect(read.warnings).toEqual(['Leg 2, Price the quote, is taken for the test BIL-01, which has that name.']);
  });

  it('takes two data rows of one name for two', () => {
    const row = { name: 'Small', values: { Band: 'A' } };
    const written = { ...file([]), data: { columns: document.columns, rows: [row, { ...row, values: { Band: 'B' } }] } };
    const read = readScenarioFile(written, context(document));
    expect(read.document.rows.map(({ id, values }) => [id, values['Band']])).toEqual([
      ['r', 'A'],
      ['new1', 'B'],
    ]);
  });

  it('tells what it cannot find, and keeps it in words', () => {
    const read = readScenarioFile(
      file([fileLeg({ key: 'x', test: 'GONE', lane: 'Legal', persona: 'Judge', after: ['nobody'] })]),
      context(),
    );
    expect(read.problems).toEqual([{ leg: 0, message: 'Leg 1 names the test GONE, which is not in the library.' }]);
    expect(read.warnings).toEqual([
      'Legal is no team yet; its legs get no lane, and a note.',
      'Judge is no persona yet; it is left out.',
      'Leg 1 names a leg that is not in the file; that is left out.',
    ]);
    expect(read.document.legs[0]?.note).toBe('Lane in the file: Legal');
  });
});

describe('the edits between two states', () => {
  it('make the one of the other (seed 4217)', () => {
    const ids = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 5 });
    const names = fc.uniqueArray(fc.constantFrom('Band', 'Length', 'Tariff'), { maxLength: 3 });
    const states: fc.Arbitrary<ScenarioDocument> = fc
      .record({
        ids,
        names,
        notes: fc.array(fc.constantFrom('', 'x', 'y'), { minLength: 5, maxLength: 5 }),
        rows: ids,
        links: fc.nat({ max: 4 }),
      })
      .map(({ ids: own, names: columns, notes, rows, links }) => ({
        legs: own.map((id, at): LegDocument =>
          createLeg({
            id,
            title: id,
            note: notes[at] ?? '',
            samePersonAs: own[links] ?? null,
            after: at % 2 === 0 ? null : own.slice(0, links),
          }),
        ),
        columns: columns.map((name) => ({ name, type: 'text' as const })),
        rows: rows.map((id, at) => ({ id, name: `Row ${id}`, values: Object.fromEntries(columns.map((name) => [name, notes[at] ?? ''])) })),
        classes: null,
      }));
    const plain = ({ rows, ...rest }: ScenarioDocument) => ({
      ...rest,
      // Rows keep the place that they have; an empty cell and none are the same.
      rows: rows
        .map((row) =>
          JSON.stringify([
            row.id,
            row.name,
            Object.entries(row.values)
              .filter(([, value]) => value !== '')
              .sort(),
          ]),
        )
        .sort(),
    });
    fc.assert(
      fc.property(states, states, (before, after) => {
        const edited = editScenario(before, diffDocuments(before, after));
        if (!edited.ok) throw new Error(edited.message);
        expect(plain(edited.document)).toEqual(plain(after));
      }),
      { seed: 4217, numRuns: 400 },
    );
  });
});
