import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { AstBuilder, GherkinClassicTokenMatcher, Parser } from '@cucumber/gherkin';
import { IdGenerator } from '@cucumber/messages';
import { toLegView } from '@kindred-baton/core/scenarios/draw-legs';
import { diffDocuments } from '@kindred-baton/core/scenarios/diff-documents';
import type { LegDocument, ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import type { ExportedScenario, ScenarioFile } from '@kindred-baton/core/scenarios/scenario-file';
import { readScenarioFile } from '@kindred-baton/core/scenarios/scenario-file';
import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import { describe, expect, it } from 'vitest';
import { writeScenarioBpmn } from '../bpmn/write-scenario-bpmn.ts';
import { writeXlsx } from '../tables/write-tables.ts';
import { readScenarioFromFile } from './read-scenario-file.ts';
import { toScenarioTables } from './scenario-tables.ts';
import { writeScenarioFeature } from './write-scenario-feature.ts';
import { layOutExported } from './draw-relay.ts';
import { DOCUMENT, NAMES, TESTS, toExported } from './exported-scenario.test-data.ts';
import { writeScenarioBook, writeRoomSheet, writeSpecialistSheet } from './write-sheets.ts';

const require = createRequire(import.meta.url);
const encode = (text: string) => new TextEncoder().encode(text);
const read = async (name: string, bytes: Uint8Array): Promise<ScenarioFile> => {
  const reading = await readScenarioFromFile({ name, bytes });
  if (!reading.ok) throw new Error(reading.message);
  return reading.file;
};
const context = (before: ScenarioDocument | null) => ({
  ...NAMES,
  ...{ before, createId: () => 'new', tests: Object.entries(TESTS).map(([code, { name }]) => ({ code, name })) },
});

const WRITERS: Readonly<Record<string, (scenario: ExportedScenario) => Promise<Uint8Array> | Uint8Array>> = {
  's.xlsx': (scenario) => writeXlsx(toScenarioTables(scenario)),
  's.bpmn': (scenario) => encode(writeScenarioBpmn(scenario)),
};

describe('a scenario as a file', () => {
  it.each(Object.entries(WRITERS))('%s read again over the scenario that wrote it changes nothing', async (name, write) => {
    const file = await read(name, await write(toExported(DOCUMENT)));
    const { document, problems, warnings } = readScenarioFile(file, context(DOCUMENT));
    expect([problems, warnings]).toEqual([[], []]);
    expect(diffDocuments(DOCUMENT, document)).toEqual([]);
    expect(file).toMatchObject({ code: 'NS-S9', name: 'A “small” business & a <meter>', node: 'NS' });
  });

  it.each(Object.entries(WRITERS))('%s read where nothing is yet makes the same scenario', async (name, write) => {
    const file = await read(name, await write(toExported(DOCUMENT)));
    const { document } = readScenarioFile(file, {
      ...context(null),
      createId: (() => {
        let next = 0;
        return () => `new${(next += 1)}`;
      })(),
    });
    const plain = (legs: readonly LegDocument[]) =>
      legs.map(({ test, title, team, waitDays, note }) => ({ test, title, team, waitDays, note }));
    expect(plain(document.legs)).toEqual(plain(DOCUMENT.legs));
    expect(document.columns).toEqual(DOCUMENT.columns);
    expect(document.rows.map(({ values }) => values)).toEqual(DOCUMENT.rows.map(({ values }) => values));
  });
});

describe('BPMN', () => {
  const XSD = path.join(path.dirname(require.resolve('bpmn-moddle')), '../resources/bpmn/xsd/BPMN20.xsd');
  // Source: the OMG’s BPMN 2.0.2 schemas as bpmn-moddle 10.3.1 ships them, by xmllint (libxml2).
  it('that we write is valid against the OMG’s schema', () => {
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'baton-bpmn-')), 'scenario.bpmn');
    for (const document of [DOCUMENT, { ...DOCUMENT, legs: DOCUMENT.legs.slice(2) }]) {
      writeFileSync(file, writeScenarioBpmn(toExported(document)));
      expect(() => execFileSync('xmllint', ['--noout', '--nonet', '--schema', XSD, file], { stdio: 'pipe' })).not.toThrow();
    }
  });

  // Source: the OMG’s pizza collaboration (BPMN 2.0 by Example, dtc/10-06-02) as bpmn-js-differ 0.2.0 ships it: 2 pools, 3 lanes, 9 tasks.
  it('of the pizza collaboration is nine legs, in flow order, with lanes; its way back is cut', async () => {
    const folder = path.dirname(require.resolve('bpmn-js-differ/package.json'));
    const bytes = new Uint8Array(readFileSync(path.join(folder, 'test/fixtures/pizza-collaboration/old.bpmn')));
    const reading = await readScenarioFromFile({ name: 'old.bpmn', bytes });
    if (!reading.ok) throw new Error(reading.message);
    const { legs } = reading.file;
    expect(legs).toHaveLength(9);
    const titles = legs.map(({ title }) => title);
    expect(titles.indexOf('Bake the pizza')).toBeLessThan(titles.indexOf('Deliver the pizza'));
    expect(legs.map(({ lane }) => lane)).toEqual(expect.arrayContaining(['clerk', 'pizza chef', 'delivery boy']));
    const { document } = readScenarioFile(reading.file, {
      ...context(null),
      createId: (() => {
        let next = 0;
        return () => `n${(next += 1)}`;
      })(),
    });
    const chain = wireChain(document.legs.map((leg) => toLegView(leg, undefined)));
    expect(chain.cyclic).toEqual([]);
  });

  const process = (inside: string) =>
    encode(`<definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL"><process id="P" name="Ask">${inside}</process></definitions>`);
  const flow = (from: string, to: string) => `<sequenceFlow id="${from}${to}" sourceRef="${from}" targetRef="${to}"/>`;

  it('with gateways and loops keeps every leg, and tells what a scenario cannot say', async () => {
    const bytes = process(
      `<task id="a" name="Ask"/><exclusiveGateway id="g" name="Paid?"/><task id="b" name="Ship"/><task id="c" name="Remind"/><task id="d" name="Close"/>${[
        flow('a', 'g'),
        flow('g', 'b'),
        flow('g', 'c'),
        flow('c', 'a'),
        flow('b', 'd'),
      ].join('')}`,
    );
    const reading = await readScenarioFromFile({ name: 'x.bpmn', bytes });
    if (!reading.ok) throw new Error(reading.message);
    expect(reading.file.legs.map(({ title, after }) => [title, after])).toEqual([
      ['Ask', null],
      ['Ship', null],
      ['Remind', ['a']],
      ['Close', ['b']],
    ]);
    expect(reading.warnings).toEqual([
      '“Paid?” decides between ways. A scenario goes one of them: take out the legs of the others.',
      'The way back from “Remind” to “Ask” is left out: a scenario does not go round.',
    ]);
  });

  it('takes needs and gives from data associations', async () => {
    const bytes = process(
      `<task id="a" name="Ask"><dataOutputAssociation id="o"><targetRef>v</targetRef></dataOutputAssociation></task>
       <task id="b" name="Bill"><dataInputAssociation id="i"><sourceRef>v</sourceRef></dataInputAssociation></task>
       <dataObject id="w"/><dataObjectReference id="v" name="Quote no." dataObjectRef="w"/>${flow('a', 'b')}`,
    );
    const { legs } = await read('x.bpmn', bytes);
    expect(legs.map(({ needs, gives }) => [needs.map(({ name }) => name), gives.map(({ name }) => name)])).toEqual([
      [[], ['Quote no.']],
      [['Quote no.'], []],
    ]);
  });

  it.each([
    ['no BPMN', encode('<html/>'), /no task|not BPMN/],
    ['cut off', encode('<definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL"><process'), /not BPMN 2\.0 XML|end is missing/],
    ['no task', process('<startEvent id="s"/>'), /no task in the file/],
  ])('that is %s gets a sentence', async (_, bytes, words) => {
    const reading = await readScenarioFromFile({ name: 'x.bpmn', bytes });
    expect(reading.ok ? 'read' : reading.message).toMatch(words);
  });
});

describe('a workbook', () => {
  it('without the sheet Legs, or with a leg without words, gets a sentence', async () => {
    const make = async (sheet: string, rows: string[][]) => {
      const reading = await readScenarioFromFile({
        name: 's.xlsx',
        bytes: await writeXlsx([{ sheet, headings: ['Leg', 'Test', 'Words', 'Waiting days'], rows }]),
      });
      return reading.ok ? reading.file.legs.length : reading.message;
    };
    expect(await make('Other', [['1', 'X', '', '']])).toContain('no sheet Legs');
    expect(await make('Legs', [['1', '', '', '']])).toContain('row 2: name a test, or say in Words');
    expect(await make('Legs', [['1', 'X', '', 'many']])).toContain('“many” is no number of days');
    expect(await make('Legs', [['1', '', 'Fit it', '3']])).toBe(1);
  });
});

describe('Gherkin', () => {
  // Source: @cucumber/gherkin 42.0.1 reads it.
  it('is an outline with the data rows as examples', () => {
    const text = writeScenarioFeature(toExported(DOCUMENT));
    const { feature } = new Parser(new AstBuilder(IdGenerator.incrementing()), new GherkinClassicTokenMatcher()).parse(text);
    const scenario = feature?.children[0]?.scenario;
    expect(scenario?.steps.map((step) => step.text)).toContain('Customer & desk: Take the <application> (CUS-01)');
    expect(scenario?.steps.map((step) => step.text)).toContain('Band is "<Band>"');
    expect(scenario?.examples[0]?.tableBody[0]?.cells.map(({ value }) => value)).toEqual(['Small | business', 'A']);
  });
});

describe('sheets to print', () => {
  const head = { title: 'T', programme: 'Brindlemere', day: '25 November 2026', paper: 'A4' as const };
  it('draw the relay, keep what is typed from becoming markup, and say what is to be written', () => {
    const exported = toExported(DOCUMENT);
    for (const write of [writeRoomSheet, writeSpecialistSheet, writeScenarioBook]) {
      const html = write(exported, head);
      expect(html).toContain('<svg');
      expect(html).not.toContain('<meter>');
      expect(html).not.toContain('NaN');
    }
    const long = toExported({ ...DOCUMENT, legs: Array.from({ length: 60 }, (_, i) => createLeg({ id: String(i), title: `Leg ${i}` })) });
    const bands = writeRoomSheet(long, head)
      .split('<svg')
      .slice(1)
      .map((band) => band.split('</svg>')[0]?.match(/rx="14"/g)?.length);
    expect(bands).toEqual([11, 11, 11, 11, 11, 5]);
    const heads = [...writeRoomSheet(long, head).matchAll(/viewBox="(-?[\d.]+) [^"]*"[^>]*aria-label="([^"]*)"/g)].map(
      ([, left, label]) => [left, label],
    );
    expect(heads.map(([, label]) => label)).toEqual(['The relay', ...Array.from({ length: 5 }, () => 'The relay, continued')]);
    expect(Number(heads[0]?.[0])).toBe(0);
    expect(writeSpecialistSheet(exported, head)).toContain('<h2>To be written: 1</h2>');
    expect(writeScenarioBook(exported, head)).toContain('Press &quot;Save&quot;');
    // What is handed over is drawn through, what only waits is dotted.
    const { wires } = layOutExported(exported);
    const handed = wires.filter(({ values }) => values.length > 0).length;
    const drawn = writeRoomSheet(exported, head);
    expect(handed).toBeGreaterThan(0);
    expect([drawn.match(/stroke-width="2"\/>/g)?.length ?? 0, drawn.match(/stroke-dasharray="1 4"/g)?.length ?? 0]).toEqual([
      handed,
      wires.length - handed,
    ]);
  });
});

describe('a scenario as a drawing', () => {
  const one = (give: boolean) =>
    toExported({
      ...DOCUMENT,
      legs: [createLeg({ id: 'only', title: 'Only', gives: give ? [{ name: 'Quote no.', type: 'text' }] : [] })],
    });
  it('writes a task’s values, also a single one, and nothing of values for a task without any', () => {
    expect(writeScenarioBpmn(one(true)).match(/<dataOutput /g)).toHaveLength(1);
    expect(writeScenarioBpmn(one(false))).not.toContain('ioSpecification');
  });
});
