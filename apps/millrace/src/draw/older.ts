import { html } from 'hono/html';
import { printDay, readDay } from '../data/days.ts';
import type { Desk, Field, Screen, Table, View } from '../kit/screen.ts';
import { toWord } from '../releases.ts';
import type { Markup } from './page.ts';
import { PAGE_ROWS } from './table-pages.ts';

/** A screen of the older generation: one form laid out as tables, labels in the cell before their field; each answer is a new page. */
export function writeOlder({ name }: Screen, view: View, desk: Desk): Markup {
  const word = (text: string) => toWord(desk.release, text);
  const drawn = new Set([...view.fields, ...(view.dialog?.fields ?? [])].map(({ label }) => label));
  const blocks = [...new Set(view.fields.map(({ block }) => block ?? ''))];
  return html`<h1>${name}</h1>
    ${desk.message === '' ? '' : html`<div class="${desk.isRefused ? 'said refused' : 'said'}">${desk.message}</div>`}
    <form method="post" autocomplete="off">
      <input type="hidden" name="record" value="${desk.record}" /><input type="hidden" name="mode" value="${desk.mode}" />
      <input type="hidden" name="event" value="" />
      ${Object.entries(desk.values).map(([label, value]) => (drawn.has(label) ? '' : html`<input type="hidden" name="f:${label}" value="${value}" />`))}
      ${blocks.map((block) =>
        writeBlock(
          block,
          view.fields.filter((field) => (field.block ?? '') === block),
          desk,
        ),
      )}
      ${
        (view.shown ?? []).length === 0
          ? ''
          : html`<table class="form">
              ${(view.shown ?? []).map(
                ([label, value]) =>
                  html`<tr>
                    <td class="label">${word(label)}</td>
                    <td>${value}</td>
                  </tr>`,
              )}
            </table>`
      }
      ${(view.sentences ?? []).map((sentence) => html`<p>${sentence}</p>`)}
      <p>${view.buttons.map((label) => html`<input type="submit" name="press:${label}" value="${word(label)}" />`)}</p>
      ${(view.tables ?? []).map((table) => writeTable(table, desk))} ${view.dialog ? writeDialog(view.dialog, desk) : ''}
    </form>
    ${view.file ? html`<p><a href="${view.file.address}" download>${view.file.name}</a></p>` : ''}
    ${view.frame ? html`<iframe title="${view.frame.title}" src="${view.frame.address}"></iframe>` : ''}
    <script>
      for (const field of document.querySelectorAll('[data-looked-up]'))
        field.addEventListener('change', () => {
          const form = field.form;
          form.elements.event.value = 'change:' + field.dataset.lookedUp;
          form.submit();
        });
    </script>`;
}

function writeBlock(block: string, fields: readonly Field[], desk: Desk): Markup {
  return html`${block === '' ? '' : html`<h2>${block}</h2>`}
    <table class="form">
      ${fields.map(
        (field) =>
          html`<tr>
            <td class="label">${toWord(desk.release, field.label)}</td>
            <td>${writeField(field, desk)}</td>
          </tr>`,
      )}
    </table>`;
}

function writeField({ label, kind, options = [], isFixed, isLookedUp }: Field, { values }: Desk): Markup {
  const value = values[label] ?? '';
  const looked = isLookedUp ? html`data-looked-up="${label}"` : '';
  if (kind === 'list')
    return html`<select name="f:${label}" ${looked}>
      ${options.map((option) => html`<option value="${option}" ${option === value ? html`selected` : ''}>${option}</option>`)}
    </select>`;
  if (kind === 'boxes')
    return html`<fieldset>
      <legend>${label}</legend>
      ${options.map(
        (option) =>
          html`<label
            ><input type="radio" name="f:${label}" value="${option}" ${option === value ? html`checked` : ''} /> ${option}</label
          > `,
      )}
    </fieldset>`;
  const shown = kind === 'day' ? printDay(readDay(value) ?? '') || value : value;
  return html`<input type="text" name="f:${label}" value="${shown}" ${isFixed ? html`readonly` : ''} ${looked} />`;
}

function writeTable({ title, headings, rows, editable }: Table, { values, release }: Desk): Markup {
  const page = Number(values[`page of ${title}`] ?? 0);
  const shown = rows.slice(page * PAGE_ROWS, (page + 1) * PAGE_ROWS);
  const at = editable === undefined ? -1 : headings.indexOf(editable);
  return html`<h2>${title}</h2>
    ${rows.length === 0 ? html`<p>Nothing yet.</p>` : ''}
    <table class="list">
      <tr>
        ${headings.map((heading) => html`<th>${toWord(release, heading)}</th>`)}
      </tr>
      ${shown.map(
        (row) =>
          html`<tr>
            ${row.map((cell, k) =>
              k === at
                ? html`<td><input name="f:${editable} ${row[0]}" value="${values[`${editable} ${row[0]}`] ?? cell}" /></td>`
                : html`<td>${cell}</td>`,
            )}
          </tr>`,
      )}
    </table>
    ${page > 0 ? html`<input type="submit" name="page:${page - 1}:${title}" value="Previous page" />` : ''}
    ${rows.length > (page + 1) * PAGE_ROWS ? html`<input type="submit" name="page:${page + 1}:${title}" value="Next page" />` : ''}`;
}

function writeDialog({ title, fields, buttons }: NonNullable<View['dialog']>, desk: Desk): Markup {
  return html`<div class="dialog" role="dialog" aria-modal="true" aria-label="${title}">
    <h2>${title}</h2>
    ${writeBlock('', fields, desk)} ${buttons.map((label) => html`<input type="submit" name="press:${label}" value="${label}" />`)}
  </div>`;
}
