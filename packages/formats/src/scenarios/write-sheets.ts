import type { ExportedLeg, ExportedScenario } from '@kindred-baton/core/scenarios/scenario-file';
import { printStep } from '@kindred-baton/core/tests/print-step';
import type { NeedSource } from '@kindred-baton/core/scenarios/chain';
import type { Field } from '@kindred-baton/core/values/field';
import { FIELD_TYPE_LABELS } from '@kindred-baton/core/values/field';
import type { DocumentHead } from '../documents/write-page.ts';
import { writePage } from '../documents/write-page.ts';
import type { Markup } from '../xml/markup.ts';
import { joinMarkup, markup, NO_MARKUP, toLines } from '../xml/markup.ts';
import { drawRelay } from './draw-relay.ts';

const STYLE = `
h1 { font-size: 20pt; margin-bottom: 2mm } svg { margin: 4mm 0; break-inside: avoid } .open { border-left: 1mm dashed #566670; padding-left: 2mm }
.write { height: 12mm } .leg { break-inside: avoid; margin-top: 6mm } .warn { border-left: 1mm solid #c44a08; padding-left: 3mm }
`;

/** For the room: the relay large, a line a leg, and space to write what the business says. */
export function writeRoomSheet(scenario: ExportedScenario, head: DocumentHead): string {
  const rows = scenario.legs.map((leg, index) => [String(index + 1), leg.lane ?? '', leg.title, list(leg.needs), list(leg.gives), '']);
  const blank = Array.from({ length: 4 }, () => ['', '', '', '', '', '']);
  return toPage(scenario, head, [
    drawRelay(scenario),
    toTable(['No.', 'Who', 'Does what', 'Needs', 'Hands on', 'What was said'], [...rows, ...blank], 'write'),
  ]);
}

/** For the specialist: what is there, what is to be written, and what the wiring says. */
export function writeSpecialistSheet(scenario: ExportedScenario, head: DocumentHead): string {
  const open = scenario.legs.flatMap((leg, index) => (leg.test === null ? [{ leg, number: index + 1 }] : []));
  const there = scenario.legs.flatMap((leg, index) => (leg.test ? [{ leg, test: leg.test, number: index + 1 }] : []));
  return toPage(scenario, head, [
    markup`<h2>To be written: ${open.length}</h2>`,
    ...open.map(({ leg, number }) => toOpenLeg(leg, number, scenario)),
    open.length === 0 ? markup`<p>Every leg has its test.</p>` : NO_MARKUP,
    markup`<h2>There: ${there.length}</h2>`,
    toTable(
      ['No.', 'Test', 'Version', 'Steps', 'Minutes', 'Needs', 'Gives'],
      there.map(({ leg, test, number }) => [
        ...[String(number), `${test.code} ${test.name}`, `${test.version}, ${test.state}`, String(test.steps.length), String(test.minutes)],
        ...[list(leg.needs), list(leg.gives)],
      ]),
    ),
    markup`<h2>Wiring</h2>`,
    ...(scenario.findings.length === 0
      ? [markup`<p>Every baton arrives.</p>`]
      : scenario.findings.map(({ weight, message }) => markup`<p class="${weight === 'error' ? 'warn' : ''}">${message}</p>`)),
    drawRelay(scenario),
  ]);
}

/** The scenario book: the relay drawn, each leg with where its values come from and its steps, and the data rows. */
export function writeScenarioBook(scenario: ExportedScenario, head: DocumentHead): string {
  return toPage(scenario, head, [
    drawRelay(scenario),
    ...scenario.legs.map((leg, index) => toLeg(leg, index, scenario)),
    toDataRows(scenario),
  ]);
}

function toPage({ file, path, state, legs }: ExportedScenario, head: DocumentHead, parts: readonly Markup[]): string {
  const minutes = legs.reduce((sum, { test }) => sum + (test?.minutes ?? 0), 0);
  const about = [path.join(' › '), file.code, state, `${legs.length} legs`, `${minutes} min by hand`, head.day];
  const top = markup`<p class="programme">${head.programme}</p><h1>${file.name}</h1><p class="about">${about.join(' · ')}</p>`;
  return writePage(head, toLines([top, ...parts]), { style: STYLE, isWide: true });
}

const list = (fields: readonly Field[]) => fields.map(({ name }) => name).join(', ');

function toTable(headings: readonly string[], rows: readonly (readonly string[])[], rowClass = ''): Markup {
  const cells = (values: readonly string[], tag: 'th' | 'td') => values.map((value) => markup`<${tag}>${value}</${tag}>`);
  return markup`<table><thead><tr>${cells(headings, 'th')}</tr></thead><tbody>${rows.map((row) => markup`<tr class="${rowClass}">${cells(row, 'td')}</tr>`)}</tbody></table>`;
}

function toOpenLeg(leg: ExportedLeg, number: number, { chain }: ExportedScenario): Markup {
  const takers = chain.legs.filter(({ needs }) =>
    needs.some(({ source }) => source.kind === 'leg' && source.leg === chain.legs[number - 1]?.leg.id),
  );
  const behind = takers.map(({ index }) => index + 1).join(', ');
  return markup`<div class="leg open"><h3>${number} ${leg.title}</h3><p class="about">${leg.lane ?? 'no team yet'}</p>
<p><b>Needs</b> ${toFields(leg.needs)}</p><p><b>Gives</b> ${toFields(leg.gives)}${behind === '' ? '' : `, for leg ${behind}`}</p></div>`;
}

const toFields = (fields: readonly Field[]): Markup =>
  fields.length === 0
    ? markup`nothing`
    : joinMarkup(
        fields.map(({ name, type }) => markup`<code>${name}</code> ${FIELD_TYPE_LABELS[type]}`),
        ', ',
      );

function toLeg(leg: ExportedLeg, index: number, scenario: ExportedScenario): Markup {
  const wired = scenario.chain.legs[index];
  const note = scenario.file.legs[index]?.note ?? '';
  const needs = (wired?.needs ?? []).map(({ need, source }) => markup`<code>${need.name}</code> ${describeSource(source, scenario)}`);
  const steps = leg.test?.steps ?? [];
  return markup`<section class="leg"><h3>${index + 1} ${leg.title}</h3>
<p class="about">${[leg.lane ?? 'no team yet', leg.test ? `${leg.test.code}, version ${leg.test.version}` : 'open: its test is still to be written'].join(' · ')}</p>
${note === '' ? NO_MARKUP : markup`<p>${note}</p>`}<p><b>Comes in</b> ${needs.length === 0 ? 'nothing' : joinMarkup(needs, ', ')}<br><b>Goes on</b> ${toFields(leg.gives)}</p>
${
  steps.length === 0
    ? NO_MARKUP
    : toTable(
        ['No.', 'Step', 'You should see'],
        steps.map(({ expect, ...step }, at) => [String(at + 1), printStep(step), expect ?? '']),
      )
}</section>`;
}

function describeSource(source: NeedSource, { chain }: ExportedScenario): string {
  switch (source.kind) {
    case 'leg':
      return `from leg ${chain.legs.findIndex(({ leg }) => leg.id === source.leg) + 1}`;
    case 'column':
      return 'from the data row';
    case 'fixed':
      return `always ${source.value}`;
    case 'own':
      return `the test’s own: ${source.value}`;
    case 'new':
      return `new ${source.pattern}`;
    default:
      return 'from nowhere yet';
  }
}

function toDataRows({ file: { data } }: ExportedScenario): Markup {
  if (!data || data.rows.length === 0) return NO_MARKUP;
  const rows = data.rows.map(({ name, values }) => [name, ...data.columns.map((column) => values[column.name] ?? '')]);
  return markup`<h2>Data rows</h2>${toTable(['Row', ...data.columns.map(({ name }) => name)], rows)}`;
}
