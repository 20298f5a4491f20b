import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkCodeScheme, DEFAULT_CODE_SCHEME, proposeCode } from './code-scheme.ts';
import type { MapEdit } from './edit-outline.ts';
import { editOutline } from './edit-outline.ts';
import type { OutlineNode } from './outline.ts';
import { toOutlineTree } from './outline.ts';
import type { OutlineKey } from './outline-keys.ts';
import { placeByKey, takeTopmost } from './outline-keys.ts';
import { parseOutlineText } from './parse-outline-text.ts';

interface Plain extends OutlineNode {
  readonly note: string;
}

const LEVELS = ['stream', 'process', 'activity'];
let minted = 0;
const rules = {
  levels: LEVELS,
  create: ({ code, name }: { code: string; name: string }): Plain => ({ id: `new${(minted += 1)}`, parentId: null, code, name, note: '' }),
};
const node = (code: string, parentId: string | null): Plain => ({ id: code, parentId, code, name: `N ${code}`, note: `about ${code}` });
const MAP = [
  node('A', null),
  node('A1', 'A'),
  node('A1a', 'A1'),
  node('A1b', 'A1'),
  node('A2', 'A'),
  node('B', null),
  node('B1', 'B'),
  node('C', null),
];

/** What people see: codes with their depth, in order, and what else a node holds; ids are not seen. */
const toText = (nodes: readonly Plain[]) => {
  const tree = toOutlineTree(nodes);
  const depth = ({ parentId }: OutlineNode): number => (parentId === null ? 0 : 1 + depth(tree.byId.get(parentId) as Plain));
  return nodes.map((each) => `${'  '.repeat(depth(each))}${each.code} ${each.name} ${each.note}`);
};
const edit = (nodes: readonly Plain[], ...edits: MapEdit<Plain>[]) => {
  const edited = editOutline(nodes, edits, rules);
  if (!edited.ok) throw new Error(edited.message);
  return edited;
};
const codes = (nodes: readonly Plain[]) => nodes.map(({ code }) => code).join(' ');

const anyEdit: fc.Arbitrary<MapEdit<Plain>> = fc.oneof(
  fc.record({
    kind: fc.constant('add' as const),
    code: fc.constantFrom('X', 'Y', 'Z', 'A'),
    name: fc.string(),
    parent: fc.constantFrom(null, 'A', 'A1', 'B', 'X'),
    at: fc.nat(4),
  }),
  fc.record({
    kind: fc.constant('change' as const),
    code: fc.constantFrom('A', 'A1', 'B1', 'X'),
    change: fc.record({ code: fc.constantFrom('A', 'Q', 'R'), note: fc.string(), name: fc.string() }, { requiredKeys: [] }),
  }),
  fc.record({
    kind: fc.constant('move' as const),
    places: fc.uniqueArray(
      fc.record({
        code: fc.constantFrom('A1', 'A1a', 'A1b', 'A2', 'B', 'B1', 'C'),
        parent: fc.constantFrom(null, 'A', 'B', 'C'),
        at: fc.nat(4),
      }),
      { minLength: 1, maxLength: 3, selector: ({ code }) => code },
    ),
  }),
  fc.record({
    kind: fc.constant('remove' as const),
    codes: fc.uniqueArray(fc.constantFrom('A1', 'A2', 'B', 'C'), { minLength: 1, maxLength: 2 }),
  }),
);

describe('editing an outline', () => {
  it('gives the edits that bring everything back as it was (seed 31)', () => {
    let made = 0;
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 6 }), (edits) => {
        const edited = editOutline(MAP, edits, rules);
        if (!edited.ok) return;
        made += 1;
        const back = editOutline(edited.nodes, edited.undo, rules);
        expect(back.ok ? toText(back.nodes) : back.message).toEqual(toText(MAP));
      }),
      { seed: 31, numRuns: 3_000 },
    );
    expect(made).toBeGreaterThan(500);
  });

  it('adds, moves with what lies below, and removes', () => {
    expect(codes(edit(MAP, { kind: 'add', code: 'A3', name: 'New', parent: 'A', at: 1 }).nodes)).toBe('A A1 A1a A1b A3 A2 B B1 C');
    expect(codes(edit(MAP, { kind: 'move', places: [{ code: 'A1', parent: 'B', at: 0 }] }).nodes)).toBe('A A2 B A1 A1a A1b B1 C');
    expect(codes(edit(MAP, { kind: 'remove', codes: ['A1', 'C'] }).nodes)).toBe('A A2 B B1');
  });

  describe('moving several at once', () => {
    const move = (...places: [string, string | null, number][]): MapEdit<Plain> => ({
      kind: 'move',
      places: places.map(([code, parent, at]) => ({ code, parent, at })),
    });

    it('lets a branch and what lies below it change places, and brings them back', () => {
      const swapped = edit(MAP, move(['B1', null, 1], ['B', 'B1', 0]));
      expect(toText(swapped.nodes).map((line) => line.split(' N')[0])).toEqual([
        'A',
        '  A1',
        '    A1a',
        '    A1b',
        '  A2',
        'B1',
        '  B',
        'C',
      ]);
      expect(toText(edit(swapped.nodes, ...swapped.undo).nodes)).toEqual(toText(MAP));
    });

    it('refuses circles and one in two places, and loses nothing', () => {
      const say = (...places: [string, string | null, number][]) => {
        const edited = editOutline(MAP, [move(...places)], rules);
        return edited.ok ? codes(edited.nodes) : edited.message;
      };
      expect(say(['B', 'C', 0], ['C', 'B', 0])).toBe('N B cannot go below itself.');
      expect(say(['A1', 'A2', 0], ['A2', 'B1', 0], ['B1', 'A1', 0])).toBe('N A1 cannot go below itself.');
      expect(say(['A2', 'B', 0], ['B', 'C', 0], ['C', 'B', 0])).toBe('N B cannot go below itself.');
      expect(say(['C', null, 0], ['C', 'B', 0])).toBe('N C is moved to two places at once.');
    });

    /** A second way, by plain lists of children: null where the places ask for what cannot be. */
    function moveAgain(places: readonly { code: string; parent: string | null; at: number }[]): string[] | null {
      const children = new Map<string | null, string[]>([[null, []]]);
      for (const { code } of MAP) children.set(code, []);
      for (const { code, parentId } of MAP) children.get(parentId)?.push(code);
      const parentOf = new Map(MAP.map(({ code, parentId }) => [code, parentId]));
      for (const { code, parent } of places) {
        children.forEach((list, key) =>
          children.set(
            key,
            list.filter((each) => each !== code),
          ),
        );
        parentOf.set(code, parent);
      }
      for (const { code, parent, at } of places) children.get(parent)?.splice(at, 0, code);
      const lines: string[] = [];
      const walk = (parent: string | null, depth: number): boolean =>
        depth <= LEVELS.length &&
        (children.get(parent) ?? []).every((code) => {
          lines.push(`${'  '.repeat(depth)}${code}`);
          return depth < LEVELS.length && walk(code, depth + 1);
        });
      // What is in a circle is reached from nowhere.
      return walk(null, 0) && lines.length === MAP.length ? lines : null;
    }

    it('is what a second way makes of it, and its undo is never refused', () => {
      const anyMove = fc.uniqueArray(
        fc.record({
          code: fc.constantFrom(...MAP.map(({ code }) => code)),
          parent: fc.constantFrom(null, ...MAP.map(({ code }) => code)),
          at: fc.nat(4),
        }),
        { minLength: 1, maxLength: 4, selector: ({ code }) => code },
      );
      let made = 0;
      fc.assert(
        fc.property(anyMove, (places) => {
          const edited = editOutline(MAP, [{ kind: 'move', places }], rules);
          const again = moveAgain(places);
          expect(edited.ok ? toText(edited.nodes).map((line) => line.split(' N')[0]) : null).toEqual(again);
          if (!edited.ok) return;
          made += 1;
          const back = editOutline(edited.nodes, edited.undo, rules);
          expect(back.ok ? toText(back.nodes) : back.message).toEqual(toText(MAP));
        }),
        { seed: 32, numRuns: 4_000 },
      );
      expect(made).toBeGreaterThan(500);
    });
  });

  it.each<[string, MapEdit<Plain>, RegExp]>([
    ['a code that is taken', { kind: 'add', code: 'B', name: 'B', parent: null, at: 0 }, /The code B is taken by N B/],
    ['a level too deep', { kind: 'add', code: 'X', name: 'X', parent: 'A1a', at: 0 }, /N A1a is on the lowest level \(activity\)/],
    [
      'a branch that would be too deep',
      { kind: 'move', places: [{ code: 'A', parent: 'B', at: 0 }] },
      /would need 4 levels; the programme has 3/,
    ],
    ['a circle', { kind: 'move', places: [{ code: 'A', parent: 'A1', at: 0 }] }, /cannot go below itself/],
    ['what is not there', { kind: 'remove', codes: ['NOPE'] }, /no node NOPE/],
  ])('refuses %s, and changes nothing', (_, wrong, message) => {
    const before = toText(MAP);
    const edited = editOutline(MAP, [{ kind: 'remove', codes: ['C'] }, wrong], rules);
    expect(edited).toMatchObject({ ok: false, edit: 1, message: expect.stringMatching(message) as string });
    expect(toText(MAP)).toEqual(before);
  });
});

describe('keys of the outline', () => {
  const press = (key: OutlineKey, ...chosen: string[]) => {
    const tree = toOutlineTree(MAP);
    const places = placeByKey(tree, takeTopmost(tree, MAP, new Set(chosen)), key);
    return places && codes(edit(MAP, { kind: 'move', places }).nodes);
  };

  it('indent, outdent and move several at once', () => {
    expect(press('indent', 'A2')).toBe('A A1 A1a A1b A2 B B1 C');
    expect(press('indent', 'B', 'C')).toBe('A A1 A1a A1b A2 B B1 C');
    expect(press('outdent', 'A1a', 'A1b')).toBe('A A1 A1a A1b A2 B B1 C');
    expect(press('up', 'B', 'B1', 'C')).toBe('B B1 C A A1 A1a A1b A2');
    expect(press('down', 'A')).toBe('B B1 A A1 A1a A1b A2 C');
  });

  it('say when there is nowhere to go', () => {
    expect([press('indent', 'A'), press('outdent', 'A'), press('up', 'A'), press('down', 'C'), press('up', 'A1', 'B1')]).toEqual([
      null,
      null,
      null,
      null,
      null,
    ]);
  });
});

describe('a programme’s code scheme', () => {
  const propose = (
    depth: number,
    parent: string | null,
    name: string,
    taken: string[] = [],
    scheme: readonly string[] = DEFAULT_CODE_SCHEME,
  ) => proposeCode({ scheme, depth, parent, name, isTaken: (code) => taken.includes(code) });

  it('proposes the next free code', () => {
    expect([propose(0, null, 'New supply'), propose(1, 'NS', 'x', ['NS-1', 'NS-2']), propose(2, 'NS-2', 'x')]).toEqual([
      'NS',
      'NS-3',
      'NS-2.1',
    ]);
    expect([propose(0, null, 'New supply', ['NS']), propose(0, null, 'Übersicht'), propose(0, null, '…')]).toEqual(['NS2', 'UBE', 'N']);
    expect(propose(1, 'P1', 'x', ['P1.01'], ['P9', '{parent}.99'])).toBe('P1.02');
  });

  it('is checked before it is taken', () => {
    expect(checkCodeScheme(DEFAULT_CODE_SCHEME)).toBeNull();
    expect(
      [checkCodeScheme([]), checkCodeScheme(['X']), checkCodeScheme(['{parent}9']), checkCodeScheme(['9 9'])].every(
        (wrong) => wrong !== null,
      ),
    ).toBe(true);
  });
});

describe('a pasted outline', () => {
  const read = (text: string) => parseOutlineText(text).map(({ depth, code, name }) => `${'>'.repeat(depth)}${code ?? ''}|${name}`);

  it.each([
    ['tabs', 'A\n\tB\n\t\tC\n\tD', ['|A', '>|B', '>>|C', '>|D']],
    ['uneven spaces and bullets', '- A\n   * B\n      - C\n - D', ['|A', '>|B', '>>|C', '>|D']],
    ['codes in front', '1 Sell\n  1.1 Quote a price\n  1.2 Bill', ['1|Sell', '>1.1|Quote a price', '>1.2|Bill']],
    ['rows of code and name', 'NS\tNew supply\nNS-1\tAsk\nNS-1.1\tCall', ['NS|New supply', '>NS-1|Ask', '>>NS-1.1|Call']],
    ['one column a level', 'Sell\tQuote\tPrice\n\t\tSend\nSell\tBill', ['|Sell', '>|Quote', '>>|Price', '>>|Send', '>|Bill']],
    ['Windows line ends and empty lines', 'A\r\n\r\n  B\r\n', ['|A', '>|B']],
    ['one that begins indented', '    A\n  B', ['|A', '|B']],
  ])('with %s', (_, text, lines) => expect(read(text)).toEqual(lines));
});

describe('a long code', () => {
  it('keeps its number at the end where it would be cut off, and so one that is free is always found', () => {
    const taken = new Set<string>();
    for (let i = 0; i < 200; i += 1) {
      const code = proposeCode({
        scheme: ['N9', '9{parent}'],
        depth: 1,
        parent: 'P'.repeat(60),
        name: 'x',
        isTaken: (own) => taken.has(own),
      });
      expect(code.length).toBeLessThanOrEqual(40);
      expect(taken.has(code)).toBe(false);
      taken.add(code);
    }
  });
});
