import { printStep } from '@kindred-baton/core/tests/print-step';
import { FIELD_TYPE_LABELS } from '@kindred-baton/core/values/field';
import type { Field } from '@kindred-baton/core/values/field';
import type { DocumentHead } from '../documents/write-page.ts';
import { writePage } from '../documents/write-page.ts';
import type { Markup } from '../xml/markup.ts';
import { joinMarkup, markup, NO_MARKUP, toLines } from '../xml/markup.ts';
import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { listInputs } from '@kindred-baton/core/imports/exported-test';

/**
 * A printable document (HTML with its own style, no script): a cover with a table of contents, then each test with its steps, room for
 * what was seen, its data rows and space to sign.
 */
export function writeDocument(tests: readonly ExportedTest[], head: DocumentHead): string {
  const minutes = tests.reduce((sum, test) => sum + test.minutes, 0);
  const contents = tests.map(({ code, name }) => markup`<li><a href="#${toId(code)}"><b>${code}</b> ${name}</a></li>`);
  const cover = markup`<section class="cover"><p class="programme">${head.programme}</p><h1>${head.title}</h1>
<p>${tests.length === 1 ? '1 test' : `${tests.length} tests`} · ${formatMinutes(minutes)} by hand · ${head.day}</p>
<ol class="contents">${contents}</ol></section>`;
  return writePage(head, toLines([cover, ...tests.map(toSection)]), { style: STYLE });
}

const toId = (code: string) => `test-${code.replace(/[^A-Za-z0-9_-]/g, '-')}`;
const formatMinutes = (minutes: number) =>
  minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;

const STYLE = `
.cover { break-after: page; padding-top: 40mm } .contents { columns: 2; margin-top: 12mm; padding-left: 6mm } .contents li { break-inside: avoid }
.test { break-before: page } .cover + .test { break-before: auto } .outcome { width: 34mm }
.box { display: inline-block; width: 3mm; height: 3mm; border: 0.3mm solid #566670; border-radius: 0.5mm; margin-right: 1mm }
.sign { display: grid; grid-template-columns: 1fr 1fr 1fr; gap: 8mm; margin-top: 14mm; break-inside: avoid } .sign span { border-top: 0.3mm solid #17282f; padding-top: 1mm; color: #566670; font-size: 9pt }`;

function toSection(test: ExportedTest): Markup {
  const { code, name, path, team, application, version, state, minutes } = test;
  const about = [
    path.join(' › '),
    team ?? 'no team',
    application ?? 'no application',
    `version ${version}, ${state}`,
    `${minutes} min by hand`,
  ];
  return markup`<section class="test" id="${toId(code)}"><h2>${code} ${name}</h2>
<p class="about">${about.join(' · ')}</p>
${toFields('Needs', test.needs)}${toFields('Gives', test.gives)}
<table><thead><tr><th class="no">No.</th><th>Step</th><th>You should see</th><th class="outcome">Outcome and what was seen</th></tr></thead><tbody>
${toLines(test.steps.map(({ expect, ...step }, index) => markup`<tr><td class="no">${index + 1}</td><td>${toMarked(printStep(step))}</td><td>${toMarked(expect ?? '')}</td><td><span class="box"></span>worked <span class="box"></span>did not</td></tr>`))}
</tbody></table>
${toRows(test)}
<div class="sign"><span>Tester</span><span>Date</span><span>Signature</span></div></section>`;
}

/** Values that travel stand out. */
const toMarked = (text: string): Markup =>
  markup`${text.split(/(\{[^{}]+\})/).map((part, index) => (index % 2 === 1 ? markup`<code>${part}</code>` : part))}`;

function toFields(title: string, fields: readonly Field[]): Markup {
  if (fields.length === 0) return NO_MARKUP;
  return markup`<p><b>${title}</b> ${joinMarkup(
    fields.map(({ name, type }) => markup`<code>${name}</code> ${FIELD_TYPE_LABELS[type]}`),
    ', ',
  )}</p>`;
}

function toRows(test: ExportedTest): Markup {
  if (test.rows.length === 0) return NO_MARKUP;
  const inputs = listInputs(test);
  const cells = (values: readonly string[], tag: 'th' | 'td') => values.map((value) => markup`<${tag}>${value}</${tag}>`);
  return markup`<h3>Data rows</h3><table><thead><tr>${cells(['Data row', ...inputs], 'th')}</tr></thead><tbody>${test.rows.map(
    ({ name, as, values }) =>
      markup`<tr>${cells([as === undefined ? name : `${name} (as ${as})`, ...inputs.map((input) => values[input] ?? '')], 'td')}</tr>`,
  )}</tbody></table>`;
}
