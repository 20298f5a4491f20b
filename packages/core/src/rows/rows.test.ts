import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createRandom } from '../values/fresh.ts';
import { coverRows } from './cover-rows.ts';
import { getBinaryBound, getLowerBound } from './lower-bound.ts';
import type { MakeRowsInput, MadeRows } from './make-rows.ts';
import { makeRows } from './make-rows.ts';
import type { ClassSetup, Combination, RowModel } from './row-model.ts';

const finish = <T>(work: Generator<unknown, T>): T => {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
};
const plain = (sizes: number[], strength = 2): RowModel => ({
  ...{ strength, sizes, forbidden: [] },
  isInvalid: sizes.map((size) => Array.from({ length: size }, () => false)),
});
const cover = (model: RowModel, seed = 4217) => finish(coverRows(model, { seed }));

/** The plain counter: every set of columns, every combination of their classes. */
function countMissing(rows: readonly Combination[], setup: ClassSetup): string[] {
  const { columns, strength } = setup;
  const sets = columns.flatMap((_, a) =>
    columns
      .slice(a + 1)
      .flatMap((_, b) => (strength === 2 ? [[a, a + 1 + b]] : columns.slice(a + b + 2).map((_, c) => [a, a + 1 + b, a + b + 2 + c]))),
  );
  const everyRow = listAll(columns.map(({ name, classes }) => classes.map(({ value }) => [name, value] as const))).filter((row) =>
    isAllowed(row, setup),
  );
  const toKey = (row: Combination, set: number[]) => set.map((column) => `${column}=${row[columns[column]?.name ?? '']}`).join(' ');
  const wanted = new Set(everyRow.flatMap((row) => sets.map((set) => toKey(row, set))));
  for (const row of rows) for (const set of sets) wanted.delete(toKey(row, set));
  return [...wanted];
}
function listAll(choices: (readonly (readonly [string, string])[])[]): Combination[] {
  return choices.reduce<Combination[]>(
    (rows, column) => rows.flatMap((row) => column.map(([name, value]) => ({ ...row, [name]: value }))),
    [{}],
  );
}
function isAllowed(row: Combination, { columns, forbidden }: ClassSetup): boolean {
  const invalid = columns.filter(({ name, classes }) => classes.find(({ value }) => value === row[name])?.kind === 'invalid').length;
  return invalid <= 1 && !forbidden.some((rule) => Object.entries(rule).every(([name, value]) => row[name] === value));
}

const column = (name: string, values: string, kinds: Record<string, 'invalid' | 'must-have'> = {}) => ({
  name,
  classes: values.split(' ').map((value) => ({ value, kind: kinds[value] ?? ('valid' as const) })),
});
const QUOTE: ClassSetup = {
  strength: 2,
  columns: [
    column('Band', 'A B C'),
    column('Pipe length', '5 10 14.5 -1', { '-1': 'invalid' }),
    column('Customer', 'household business trust', { trust: 'must-have' }),
    column('Pays by', 'card transfer cash', { cash: 'invalid' }),
  ],
  forbidden: [{ Band: 'C', Customer: 'household' }],
  mustHave: [{ Band: 'B', 'Pipe length': '14.5', Customer: 'business' }],
};
const make = (setup: ClassSetup, more: Partial<MakeRowsInput> = {}): Extract<MadeRows, { ok: true }> => {
  const made = finish(makeRows({ setup, stays: [], seed: 4217, ...more }));
  if (!made.ok) throw new Error(made.message);
  return made;
};
const refuse = (setup: ClassSetup) => {
  const made = finish(makeRows({ setup, stays: [], seed: 4217 }));
  return made.ok ? 'made' : made.message;
};

describe('covering rows', () => {
  // Source: 3⁴ is the orthogonal array L9, minimal; 3¹³: published tools make 15 to 19 (from memory; design: checks).
  it('makes 3⁴ in 9 and 3¹³ in at most 19', () => {
    expect(cover(plain([3, 3, 3, 3])).rows).toHaveLength(9);
    const { rows, lowerBound } = cover(plain(Array.from({ length: 13 }, () => 3)));
    expect(rows.length).toBeLessThanOrEqual(19);
    expect(lowerBound).toBe(9);
  });

  // Source: an orthogonal array of 27 runs of strength three for four three-valued columns (K. A. Bush 1952); 33 rows are the best known for six
  // (tables of C. J. Colbourn); both from memory.
  it('makes triples of 3⁴ in 27, the least there can be, and of 3⁶ within a third of the best that is known', () => {
    expect(cover(plain([3, 3, 3, 3], 3)).rows).toHaveLength(27);
    expect(cover(plain([3, 3, 3, 3, 3, 3], 3)).rows.length).toBeLessThanOrEqual(33 * (4 / 3));
  });

  // Source: Kleitman and Spencer 1973, Katona 1973: 2ᵏ needs n with k ≤ C(n − 1, ⌈n / 2⌉); 2¹⁰⁰ needs 10 (design: checks).
  it('knows the bound for two-valued columns', () => {
    expect([2, 3, 4, 10, 11, 100].map(getBinaryBound)).toEqual([4, 4, 5, 6, 7, 10]);
    expect(cover(plain(Array.from({ length: 100 }, () => 2))).lowerBound).toBe(10);
  });

  it('covers every allowed tuple, makes no forbidden row, and keeps what must be there (seed 4217)', () => {
    const setups = fc.record({
      strength: fc.constantFrom(2 as const, 3 as const),
      sizes: fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 3, maxLength: 5 }),
      seed: fc.nat({ max: 1_000_000 }),
      rules: fc.nat({ max: 4 }),
    });
    fc.assert(
      fc.property(setups, ({ strength, sizes, seed, rules }) => {
        const random = createRandom(seed);
        // One column in six has invalid classes alone.
        const hasNoValid = sizes.map(() => random() < 1 / 6);
        const columns = sizes.map((size, at) => ({
          name: `c${at}`,
          classes: Array.from({ length: size }, (_, value) => ({
            value: `v${value}`,
            kind:
              hasNoValid[at] || (value > 0 && random() < 0.2)
                ? ('invalid' as const)
                : random() < 0.1
                  ? ('must-have' as const)
                  : ('valid' as const),
          })),
        }));
        const pick = () => {
          const chosen = columns[Math.floor(random() * columns.length)];
          return [chosen?.name ?? '', chosen?.classes[Math.floor(random() * chosen.classes.length)]?.value ?? ''] as const;
        };
        const forbidden = Array.from({ length: rules }, () => Object.fromEntries([pick(), pick()]));
        const setup: ClassSetup = { strength, columns, forbidden, mustHave: [] };
        const made = finish(makeRows({ setup, stays: [], seed }));
        const isPossible = listAll(columns.map(({ name, classes }) => classes.map(({ value }) => [name, value] as const))).some((row) =>
          isAllowed(row, setup),
        );
        if (!made.ok) {
          expect(isPossible && /no row at all|have invalid classes alone/.test(made.message)).toBe(false);
          return;
        }
        expect(made.rows.filter(({ values }) => !isAllowed(values, setup))).toEqual([]);
        expect(
          countMissing(
            made.rows.map(({ values }) => values),
            setup,
          ),
        ).toEqual([]);
        expect(made.rows.length).toBeGreaterThanOrEqual(made.lowerBound);
      }),
      { seed: 4217, numRuns: 150 },
    );
  });
});

describe('rows from classes', () => {
  it('try one invalid class at a time, and say which', () => {
    const { rows } = make(QUOTE);
    expect(
      countMissing(
        rows.map(({ values }) => values),
        QUOTE,
      ),
    ).toEqual([]);
    expect(new Set(rows.flatMap(({ invalid }) => invalid ?? []))).toEqual(new Set(['Pipe length', 'Pays by']));
    expect(rows.filter(({ why }) => why === 'must-have').map(({ values }) => `${values['Band']} ${values['Customer']}`)).toContain(
      'B business',
    );
  });

  it('join what must be there in one row where they can, and claim no bound that joining would break', () => {
    const columns = [column('Band', 'A B', { A: 'must-have' }), column('Length', '1 2', { '2': 'must-have' })];
    const made = make({ strength: 2, columns, forbidden: [], mustHave: [] });
    expect(made.rows.filter(({ why }) => why === 'must-have').map(({ values }) => values)).toEqual([{ Band: 'A', Length: '2' }]);
    expect([made.rows.length, made.lowerBound]).toEqual([4, 4]);
    const apart = make({ strength: 2, columns, forbidden: [{ Band: 'A', Length: '2' }], mustHave: [] });
    expect(apart.rows.filter(({ why }) => why === 'must-have')).toHaveLength(2);
  });

  it('leave rows that have run as they are, and count what they cover', () => {
    const first = make(QUOTE).rows.map(({ values }) => values);
    const ran = [...first.slice(0, 5), { Band: 'A', 'Pipe length': 'as measured' }];
    const { rows } = make(QUOTE, { stays: ran });
    expect(rows.slice(0, 6).map(({ values, why }) => [values, why])).toEqual(ran.map((values) => [values, 'stays']));
    expect(
      countMissing(
        rows.map(({ values }) => values),
        QUOTE,
      ),
    ).toEqual([]);
  });

  it('say in a sentence why there can be none', () => {
    const [band, length] = [column('Band', 'A B'), column('Length', '1 2')];
    const setup = (more: Partial<ClassSetup>): ClassSetup => ({
      strength: 2,
      columns: [band, length],
      forbidden: [],
      mustHave: [],
      ...more,
    });
    expect(refuse(setup({ forbidden: [{ Band: 'A' }, { Band: 'B' }] }))).toBe(
      'The forbidden combinations leave no row at all. Take one of them out.',
    );
    expect(refuse(setup({ forbidden: [{ Band: 'A', Length: '1' }], mustHave: [{ Band: 'A', Length: '1' }] }))).toBe(
      'The row that must be there with Band A and Length 1 is itself forbidden.',
    );
    expect(refuse(setup({ columns: [band] }))).toBe('Pairs need two columns with classes; there is one.');
    expect(refuse(setup({ columns: [band, { name: 'Length', classes: [] }] }))).toContain('Length has no class yet');
    expect(refuse(setup({ columns: [band, column('Length', '1 1')] }))).toBe('Length has the class “1” twice.');
    expect(refuse(setup({ forbidden: [{ Band: 'Z' }] }))).toBe('A forbidden combination names “Z”, which is no class of Band.');
  });

  it('never begin on more classes than can be counted', () => {
    const columns = Array.from({ length: 250 }, (_, at) => column(`c${at}`, 'a b c d e f g h i j'));
    expect(refuse({ strength: 3, columns, forbidden: [], mustHave: [] })).toContain('too many classes to let every three of them meet');
  });

  it('make rows where there are a thousand million combinations', () => {
    const setup: ClassSetup = {
      strength: 2,
      columns: Array.from({ length: 9 }, (_, at) => column(`c${at}`, 'a b c d e f g h i j')),
      forbidden: [{ c0: 'a', c1: 'a' }],
      mustHave: [],
    };
    const { rows, combinations, lowerBound } = make(setup);
    expect(combinations).toBe(1_000_000_000);
    expect(rows.length).toBeGreaterThanOrEqual(lowerBound);
    expect(rows.length).toBeLessThan(200);
  });
});

describe('rows that stay', () => {
  it('take part only as far as they are allowed: one that is forbidden by now covers nothing, and stays', () => {
    const forbidden = { Band: 'C', 'Pipe length': '5', Customer: 'household', 'Pays by': 'card' };
    const allowed = { Band: 'A', 'Pipe length': '5', Customer: 'household', 'Pays by': 'card' };
    const without = make(QUOTE);
    const withForbidden = make(QUOTE, { stays: [forbidden] });
    expect(withForbidden.rows.slice(1).map(({ values }) => values)).toEqual(without.rows.map(({ values }) => values));
    expect(make(QUOTE, { stays: [allowed] }).rows.length).toBeLessThanOrEqual(without.rows.length);
  });

  it('and say nothing of any column cover nothing either', () => {
    const stays = [{ Colour: 'red' }];
    expect(
      make(QUOTE, { stays })
        .rows.slice(1)
        .map(({ values }) => values),
    ).toEqual(make(QUOTE).rows.map(({ values }) => values));
  });

  it('are made for 250 columns, and not for one more', () => {
    const many = (count: number): ClassSetup => ({
      ...QUOTE,
      forbidden: [],
      mustHave: [],
      columns: Array.from({ length: count }, (_, at) => column(`c${at}`, 'x')),
    });
    expect(refuse(many(251))).toBe('These are 251 columns; rows are made for at most 250.');
    expect(refuse(many(250))).toBe('made');
  });
});

describe('the bound by classes that are invalid', () => {
  it('says nothing where a column has invalid classes alone: each row tries one of those, and none of another', () => {
    const columns = [
      column('a', 'x y', { x: 'invalid', y: 'invalid' }),
      column('b', '1 2 3 bad worse', { bad: 'invalid', worse: 'invalid' }),
    ];
    const made = make({ strength: 2, columns: [...columns, column('c', '1 2')], forbidden: [], mustHave: [] });
    expect([made.rows.length, made.lowerBound]).toEqual([6, 6]);
    expect(refuse({ strength: 2, columns: [...columns, column('c', 'no', { no: 'invalid' })], forbidden: [], mustHave: [] })).toBe(
      'a and c have invalid classes alone, and a row tries one at a time. Give one of them a valid class.',
    );
  });

  it('is each of them with each valid class of the widest other column; forbidden columns say nothing', () => {
    const setup: ClassSetup = {
      ...{ strength: 2, forbidden: [], mustHave: [] },
      columns: [column('a', '1 2 bad', { bad: 'invalid' }), column('b', '1 2 3 4 5')],
    };
    // Ten pairs of valid classes, and the invalid one with each of the five: 15 rows are made, and fewer cannot do.
    expect(make(setup).rows).toHaveLength(15);
    const model = {
      sizes: [3, 5],
      isInvalid: [
        [false, false, true],
        [false, false, false, false, false],
      ],
    } as never;
    expect(getLowerBound(model, { isBound: () => false } as never, 0)).toBe(5);
    expect(getLowerBound(model, { isBound: (at: number) => at === 0 } as never, 0)).toBe(2);
  });
});
