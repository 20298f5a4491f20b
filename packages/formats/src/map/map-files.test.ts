import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { compareMap, countKinds } from '@kindred-baton/core/imports/compare-map';
import type { NamedNode } from '@kindred-baton/core/imports/choose-differences';
import { toMapEdits, toNodeStates } from '@kindred-baton/core/imports/choose-differences';
import { editOutline } from '@kindred-baton/core/map/edit-outline';
import { DEFAULT_CODE_SCHEME } from '@kindred-baton/core/map/code-scheme';
import { describe, expect, it } from 'vitest';
import { writeBpmn } from '../bpmn/write-bpmn.ts';
import { writeCsv, writeXlsx } from '../tables/write-tables.ts';
import { readMapFile } from './read-map-file.ts';
import { toMapJson, toMapTable } from './write-map.ts';

const require = createRequire(import.meta.url);
const encode = (text: string) => new TextEncoder().encode(text);

let next = 0;
const node = (code: string, parentId: string | null, more: Partial<NamedNode> = {}): NamedNode => ({
  ...{ id: `id-${code}`, parentId: parentId === null ? null : `id-${parentId}`, code, name: `Name of ${code}`, description: '' },
  ...{ team: null, application: null, owner: null, isCritical: false, isRetired: false },
  ...more,
});

const MAP: readonly NamedNode[] = [
  node('NS', null, { name: 'New supply', owner: 'Nora Field' }),
  node('NS-1', 'NS', { name: 'Ask & "survey" <first>', team: 'Field', description: 'Two lines\nof *Markdown*; =1+1' }),
  node('NS-1.1', 'NS-1', { team: 'Field', application: 'Works', isCritical: true }),
  node('NS-1.2', 'NS-1', { team: 'Customer', name: '-10 % of the charge' }),
  node('NS-2', 'NS', { name: 'عرض سعر الخدمة' }),
  node('NS-2.1', 'NS-2', { name: 'Zoë’s e\u0301tude', isRetired: true }),
  node('LR', null, { name: '=Leak to repair' }),
];

const around = (nodes: readonly NamedNode[], levels = ['stream', 'process', 'activity']) => ({
  ...{ nodes: toNodeStates(nodes), levels, scheme: DEFAULT_CODE_SCHEME },
  ...{ teams: ['Field', 'Customer'], applications: ['Works'], people: ['Nora Field'] },
});

/** Reads a file into an empty map. */
async function takeIn(name: string, bytes: Uint8Array, levels?: string[]): Promise<NamedNode[]> {
  const reading = await readMapFile({ name, bytes }, {});
  expect(reading.problems).toEqual([]);
  const { differences, problems } = compareMap(reading.entries, around([], levels), { below: null });
  expect(problems).toEqual([]);
  const create = ({ code, name: called }: { code: string; name: string }) => node(code, null, { id: `new-${(next += 1)}`, name: called });
  const edited = editOutline([], toMapEdits(differences, { leftOut: [], missing: 'keep' }), { levels: levels ?? ['a', 'b', 'c'], create });
  if (!edited.ok) throw new Error(edited.message);
  return edited.nodes;
}

const strip = (nodes: readonly NamedNode[]) => {
  const codes = new Map(nodes.map(({ id, code }) => [id, code]));
  return nodes.map(({ id: _, parentId, ...rest }) => ({ ...rest, parent: parentId === null ? null : codes.get(parentId) }));
};

const WRITERS: Readonly<Record<string, () => Promise<Uint8Array> | Uint8Array>> = {
  'map.xlsx': () => writeXlsx([toMapTable(MAP, ['stream', 'process', 'activity'])]),
  'map.csv': () => writeCsv(toMapTable(MAP, ['stream', 'process', 'activity'])),
  'map.json': () => encode(toMapJson(MAP, ['stream', 'process', 'activity'])),
  'map.bpmn': () => encode(writeBpmn(MAP, 'Brindlemere')),
};

describe('the map as a file', () => {
  it.each(Object.entries(WRITERS))('%s read into an empty map is the same map', async (name, write) => {
    expect(strip(await takeIn(name, await write()))).toEqual(strip(MAP));
  });

  it.each(Object.entries(WRITERS))('%s read again over the map that wrote it changes nothing', async (name, write) => {
    const reading = await readMapFile({ name, bytes: await write() }, {});
    const { differences } = compareMap(reading.entries, around(MAP), { below: null });
    expect(countKinds(differences)).toEqual({ new: 0, changed: 0, moved: 0, missing: 0, same: MAP.length });
    expect(toMapEdits(differences, { leftOut: [], missing: 'remove' })).toEqual([]);
  });

  it('has no cell that a spreadsheet takes for a formula', () => {
    const text = new TextDecoder().decode(writeCsv(toMapTable(MAP, [])));
    expect(text).toContain("'=Leak to repair");
    expect(text).toContain("'-10 % of the charge");
    expect(text).not.toMatch(/(^|[,"\n])[=+@]/m);
  });
});

describe('BPMN', () => {
  const XSD = path.join(path.dirname(require.resolve('bpmn-moddle')), '../resources/bpmn/xsd/BPMN20.xsd');
  // Source: the OMG’s BPMN 2.0.2 schemas as bpmn-moddle 10.3.1 ships them, by xmllint (libxml2).
  it('that we write is valid against the OMG’s schema', () => {
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'baton-bpmn-')), 'map.bpmn');
    for (const nodes of [MAP, MAP.slice(0, 6)]) {
      writeFileSync(file, writeBpmn(nodes, 'Brindlemere'));
      expect(() => execFileSync('xmllint', ['--noout', '--nonet', '--schema', XSD, file], { stdio: 'pipe' })).not.toThrow();
    }
  });

  // Source: the OMG’s pizza collaboration (BPMN 2.0 by Example, dtc/10-06-02) as bpmn-js-differ 0.2.0 ships it: 2 pools, 3 lanes, 9 tasks.
  it('of the pizza collaboration is read: two pools, nine tasks in flow order, lanes as teams', async () => {
    const folder = path.dirname(require.resolve('bpmn-js-differ/package.json'));
    const bytes = new Uint8Array(readFileSync(path.join(folder, 'test/fixtures/pizza-collaboration/old.bpmn')));
    const { entries, problems } = await readMapFile({ name: 'old.bpmn', bytes }, {});
    expect(problems).toEqual([]);
    const pools = entries.filter(({ parent }) => parent < 0).map(({ name }) => name);
    expect(pools).toHaveLength(2);
    expect(entries).toHaveLength(2 + 9);
    const teams = new Set(entries.flatMap(({ fields }) => fields.team ?? []));
    expect([...teams]).toEqual(expect.arrayContaining(['clerk', 'pizza chef', 'delivery boy']));
    const vendor = entries.filter(
      ({ parent }) => parent === entries.findIndex(({ name }) => name === pools.find((pool) => /vendor/i.test(pool))),
    );
    const names = vendor.map(({ name }) => name);
    expect(names.indexOf('Bake the pizza')).toBeLessThan(names.indexOf('Deliver the pizza'));
    expect(names.indexOf('Deliver the pizza')).toBeLessThan(names.indexOf('Receive payment'));
  });

  it('of other programs is read as far as it goes, with warnings', async () => {
    const xml = `<definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL" xmlns:x="urn:x"><process id="P" name="Ask">
      <userTask id="b" name="Second"/><serviceTask id="a" name="First" x:odd="1"/><callActivity id="c" name="Called" calledElement="Q"/>
      <sequenceFlow id="f" sourceRef="a" targetRef="b"/><sequenceFlow id="g" sourceRef="b" targetRef="nowhere"/></process>
      <process id="Q" name="Bill"><task id="q1"/><callActivity id="again" name="Round" calledElement="Q"/></process></definitions>`;
    const { entries, warnings } = await readMapFile({ name: 'x.bpmn', bytes: encode(xml) }, {});
    expect(entries.map(({ name, parent }) => [name, parent])).toEqual([
      ['Ask', -1],
      ['First', 0],
      ['Second', 0],
      ['Called', 0],
      ['q1', 3],
      ['Round', 3],
    ]);
    expect(warnings.join()).toMatch(/nowhere/);
  });
});

// Source: the North American Industry Classification System 2017 (US Census Bureau, public domain), package naics 1.2.1.
describe('2,196 nodes in five levels from public data', () => {
  const folder = path.join(path.dirname(require.resolve('naics/package.json')), 'data');

  it('are read from a workbook: ranges as parents, line breaks in cells, long descriptions', async () => {
    const bytes = new Uint8Array(readFileSync(path.join(folder, '2017_NAICS_Descriptions.xlsx')));
    const { entries, problems, mapping } = await readMapFile({ name: 'naics.xlsx', bytes }, {});
    expect(mapping?.hierarchy).toBe('codes');
    expect(problems).toEqual([]);
    expect(entries).toHaveLength(2_196);
    const at = (code: string) => entries.find((entry) => entry.code === code);
    const parentOf = (code: string) => entries[at(code)?.parent ?? -1]?.code;
    expect([parentOf('311'), parentOf('332'), parentOf('3111'), parentOf('31111'), parentOf('311111')]).toEqual([
      '31-33',
      '31-33',
      '311',
      '3111',
      '31111',
    ]);
    const depth = (index: number): number => (index < 0 ? 0 : 1 + depth(entries[index]?.parent ?? -1));
    expect(Math.max(...entries.map((_, index) => depth(index)))).toBe(5);
    expect(Math.max(...entries.map(({ fields }) => fields.description?.length ?? 0))).toBeGreaterThan(6_900);
  });

  it('come back from every format that we write', async () => {
    const bytes = new Uint8Array(readFileSync(path.join(folder, '2017_NAICS_Descriptions.xlsx')));
    const levels = ['sector', 'subsector', 'group', 'industry', 'national'];
    const map = await takeIn('naics.xlsx', bytes, levels);
    for (const [name, file] of [
      ['m.csv', writeCsv(toMapTable(map, levels))],
      ['m.xlsx', await writeXlsx([toMapTable(map, levels)])],
      ['m.bpmn', encode(writeBpmn(map, 'NAICS'))],
      ['m.json', encode(toMapJson(map, levels))],
    ] as const) {
      const { entries } = await readMapFile({ name, bytes: file }, {});
      const { differences } = compareMap(entries, around(map, levels), { below: null });
      expect([name, countKinds(differences)]).toEqual([name, { new: 0, changed: 0, moved: 0, missing: 0, same: 2_196 }]);
    }
  }, 60_000);
});
