import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseStep } from '../tests/parse-step.ts';
import type { TemplateSource } from '../values/template.ts';
import type { Answer, QueryJson } from './answer.ts';
import { findInAnswer, isInAnswer, printAnswer, readSingle } from './answer.ts';
import { chooseDoor } from './choose-door.ts';
import { decideAnswer } from './decide-answer.ts';
import { guessDoorKind, isSafe, readQuestion } from './read-question.ts';

const valuesOf = (values: Readonly<Record<string, string>>): TemplateSource => ({
  ...{ valueOf: (name) => values[name], day: () => '2026-11-27', fresh: () => 'AB-1' },
});
const source = valuesOf({ 'Quote no.': 'QT-1/2 &x', customer: `O'Hara "& Sons"` });

describe('a question for an interface', () => {
  it('has a method, a path and a body; a value is escaped where it stands (RFC 3986, RFC 8259)', () => {
    const asked = { target: 'post /quotes/{Quote no.}?on={today}', value: '{"for": "{customer}", "lines": [{"count": 2}]}' };
    expect(readQuestion('interface', asked, source)).toEqual({
      ok: true,
      question: {
        ...{ kind: 'interface', method: 'POST', path: '/quotes/QT-1%2F2%20%26x?on=2026-11-27' },
        body: '{"for": "O\'Hara \\"& Sons\\"", "lines": [{"count": 2}]}',
      },
    });
  });

  it('says what is missing', () => {
    expect(readQuestion('interface', { target: 'the quotes' }, source)).toMatchObject({
      ok: false,
      message: expect.stringContaining('say a method and a path') as string,
    });
    expect(readQuestion('interface', { target: 'GET quotes' }, source)).toMatchObject({
      ok: false,
      message: 'The path begins with a slash: GET /quotes',
    });
  });

  it('can be asked again where that changes nothing (RFC 9110, section 9.2.1)', () => {
    const isSafely = (target: string) => {
      const reading = readQuestion('interface', { target }, source);
      return reading.ok && isSafe(reading.question);
    };
    expect(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE'].map((method) => isSafely(`${method} /x`))).toEqual([
      ...[true, true],
      ...[false, false, false, false],
    ]);
  });
});

describe('a question for a database', () => {
  const read = (target: string, value?: string) => readQuestion('database', { target, value }, source);

  it('takes values as parameters, in quotes or not, so that no value becomes a part of the statement', () => {
    expect(read("select * from quotes where number = {Quote no.} and name like '%{customer}%';")).toEqual({
      ok: true,
      question: {
        ...{ kind: 'database', parameters: ['QT-1/2 &x', `O'Hara "& Sons"`] },
        statement: "select * from quotes where number = $1 and name like '%' || $2::text || '%'",
      },
    });
  });

  it('keeps every value out of the statement, whatever it is (seed 27)', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), fc.boolean(), (value, isQuoted) => {
        const place = isQuoted ? "'{x}'" : '{x}';
        const reading = readQuestion('database', { target: `select ${place} as y` }, valuesOf({ x: value }));
        expect(reading).toMatchObject({
          question: { parameters: [value], statement: isQuoted ? "select '' || $1::text || '' as y" : 'select $1 as y' },
        });
      }),
      { seed: 27, numRuns: 300 },
    );
  });

  it('is one statement, with nothing behind “with”', () => {
    expect(read('GET /quotes')).toMatchObject({ ok: false, message: expect.stringContaining('This door is a database') as string });
    expect(read('select 1', 'x')).toMatchObject({ ok: false, message: expect.stringContaining('no place in it') as string });
    expect([guessDoorKind('get /x'), guessDoorKind('select 1')]).toEqual(['interface', 'database']);
  });
});

describe('an *ask* as a sentence', () => {
  it('is read as people write it', () => {
    expect(parseStep('ask "GET /quotes/{Quote no.}" in the "Billing interface", keep as "state". You should see: {customer}')).toEqual({
      ok: true,
      step: {
        ...{ do: 'ask', target: 'GET /quotes/{Quote no.}', within: 'Billing interface', keepAs: 'state', expect: '{customer}' },
      },
    });
  });
});

const ROWS: Answer = {
  ...{ code: null, columns: ['number', 'state', 'total'], isCut: false },
  body: [
    { number: 'BL-1', state: 'posted', total: '52.10' },
    { number: 'BL-2', state: null, total: 7 },
    { number: 'BL-12', state: 'open', total: 0 },
  ],
};
const OBJECT: Answer = {
  code: 201,
  columns: [],
  isCut: false,
  body: { number: 'QT-7', lines: [{ count: 2 }, { count: 3 }], isSent: true },
};
/** The core is given its paths; here one stands for all. */
const query: QueryJson = (_, path) => (path === '$.lines[*].count' ? [2, 3] : path === '$.gone' ? [] : undefined);

describe('what an answer holds', () => {
  it('is found by path, column, field, and the names of the whole', () => {
    const find = (answer: Answer, name: string, beside?: string) => findInAnswer(answer, { name, beside }, query);
    expect(find(ROWS, 'State')).toMatchObject({ items: ['posted', '', 'open'] });
    expect(find(ROWS, 'total', 'BL-1')).toMatchObject({ items: ['52.10'] });
    expect(find(ROWS, 'rows')).toMatchObject({ count: 3, headings: ['number', 'state', 'total'] });
    expect(find(OBJECT, 'number')).toMatchObject({ items: ['QT-7'] });
    expect(find(OBJECT, 'status code')).toMatchObject({ items: ['201'] });
    expect(find(OBJECT, '$.lines[*].count')).toMatchObject({ items: ['2', '3'] });
    expect(find(OBJECT, 'price')).toEqual({
      kind: 'none',
      message: 'The answer has no “price”. It has number, lines, isSent, status code.',
    });
    expect(find(OBJECT, '$[')).toMatchObject({ kind: 'none', message: expect.stringContaining('is no path') as string });
    expect(find(ROWS, 'total', 'BL-9')).toEqual({ kind: 'none', message: 'The answer has no row with “BL-9”.' });
    expect(find(ROWS, '__proto__')).toMatchObject({ kind: 'none' });
  });

  it('is checked as a screen is', () => {
    const holds = (answer: Answer, name: string, check?: Parameters<typeof decideAnswer>[1]['check'], value = '', beside?: string) =>
      decideAnswer(answer, { target: { name, beside }, check, value }, query).holds;
    expect(holds(ROWS, 'number', 'all different')).toBe(true);
    expect(holds(ROWS, 'state', 'none empty')).toBe(false);
    expect(holds(ROWS, 'rows', 'at least', '1')).toBe(true);
    expect(holds(ROWS, 'rows', 'counting', '3')).toBe(true);
    expect(holds(ROWS, 'rows', 'with headings', 'number, state, total')).toBe(true);
    expect(holds(ROWS, 'total', 'at most', '52.1', 'BL-1')).toBe(true);
    expect(holds(ROWS, 'state', undefined, 'posted', 'BL-1')).toBe(true);
    expect(holds(OBJECT, '$.gone', 'not there')).toBe(true);
    expect(holds(OBJECT, '$.gone')).toBe(false);
    expect(holds(OBJECT, 'status code', undefined, '201')).toBe(true);
    expect(decideAnswer(ROWS, { target: { name: 'state' }, check: undefined, value: 'posted' }, query)).toMatchObject({
      holds: false,
      isUnclear: true,
    });
  });

  it('is looked through for words, whole ones, and printed for the report', () => {
    expect([isInAnswer(ROWS, 'BL-1'), isInAnswer(ROWS, 'BL'), isInAnswer(ROWS, 'BL-11'), isInAnswer(ROWS, '')]).toEqual([
      true,
      true,
      false,
      false,
    ]);
    expect(readSingle({ ...ROWS, body: [{ count: 4 }] })).toBe('4');
    expect(readSingle(ROWS)).toBeUndefined();
    expect(printAnswer(ROWS)).toBe(
      '3 rows\nnumber: BL-1 · state: posted · total: 52.10\nnumber: BL-2 · state:  · total: 7\nnumber: BL-12 · state: open · total: 0',
    );
    expect(printAnswer(OBJECT, 24)).toBe('Status code 201\n{\n "num…');
  });
});

describe('the door of a step', () => {
  const doors = [
    { name: 'Stores', kind: 'interface' },
    { name: 'Books', kind: 'database' },
    { name: 'Old books', kind: 'database' },
  ] as const;
  const named = valuesOf({ Door: 'stores' });

  it('is the one that is named, however it is written; else the only one of its kind', () => {
    expect(chooseDoor({ target: 'GET /x', within: 'STORES' }, doors, named)).toBe(doors[0]);
    expect(chooseDoor({ target: 'GET /x', within: '{Door}' }, doors, named)).toBe(doors[0]);
    expect(chooseDoor({ target: 'GET /x' }, doors, named)).toBe(doors[0]);
  });

  it('is asked for in a sentence that says which are set', () => {
    expect(chooseDoor({ target: 'select 1' }, doors, named)).toBe(
      'The step does not say which door is asked. Set are “Stores”, “Books”, “Old books”.',
    );
    expect(chooseDoor({ target: 'select 1', within: 'Ledger' }, [], named)).toBe(
      'There is no door “Ledger” in this environment. None is set.',
    );
  });
});
