import { html } from 'hono/html';
import { readDay } from '../data/days.ts';
import type { Desk, Field, Screen, View } from '../kit/screen.ts';
import { toWord } from '../releases.ts';
import type { Markup } from './page.ts';
import { PAGE_ROWS } from './table-pages.ts';

/** A screen of the newer generation: an empty element that draws itself in the browser (newer-screen.js). */
export const writeNewer = ({ name }: Screen): Markup =>
  html`<h1>${name}</h1>
    <mill-screen></mill-screen>
    <script type="module" src="/newer-screen.js"></script>`;

/** A screen as the browser is told it: what to draw, and what it sends back with the next event. */
export interface Told {
  readonly view: object;
  readonly desk: { readonly values: Readonly<Record<string, string>>; readonly record: string; readonly mode: string };
}

/** What goes out to a screen that draws itself: labels in the words of the release, each with its own name beside it. */
export function tellView(view: View, desk: Desk): Told {
  const word = (text: string) => toWord(desk.release, text);
  const toField = (field: Field) => {
    const value = desk.values[field.label] ?? '';
    return { ...field, word: word(field.label), value: field.kind === 'day' ? (readDay(value) ?? '') : value };
  };
  const toButton = (label: string) => ({ label, word: word(label) });
  return {
    desk: { values: desk.values, record: desk.record, mode: desk.mode },
    view: {
      ...view,
      ...{ message: desk.message, isRefused: desk.isRefused, fields: view.fields.map(toField), buttons: view.buttons.map(toButton) },
      shown: (view.shown ?? []).map(([label, value]) => [word(label), value]),
      tables: (view.tables ?? []).map((table) => {
        const page = Number(desk.values[`page of ${table.title}`] ?? 0);
        const rows = table.rows.slice(page * PAGE_ROWS, (page + 1) * PAGE_ROWS);
        return { ...table, rows, page, isLast: table.rows.length <= (page + 1) * PAGE_ROWS };
      }),
      dialog: view.dialog && { ...view.dialog, fields: view.dialog.fields.map(toField), buttons: view.dialog.buttons.map(toButton) },
    },
  };
}
