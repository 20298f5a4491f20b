import type { Markup } from '../xml/markup.ts';
import { markup, NO_MARKUP } from '../xml/markup.ts';

/** Small parts of printable documents. */
export const heading = (level: 1 | 2 | 3, text: string): Markup => markup`<h${level}>${text}</h${level}>`;

export const paragraph = (text: string, kind = ''): Markup => {
  if (text === '') return NO_MARKUP;
  return kind === '' ? markup`<p>${text}</p>` : markup`<p class="${kind}">${text}</p>`;
};

const toItems = (items: readonly string[]) => items.map((item) => markup`<li>${item}</li>`);

export const list = (items: readonly string[]): Markup => (items.length === 0 ? NO_MARKUP : markup`<ul>${toItems(items)}</ul>`);

export const orderedList = (items: readonly string[]): Markup => (items.length === 0 ? NO_MARKUP : markup`<ol>${toItems(items)}</ol>`);

/** A table of text and numbers; numbers stand at the right. */
export function table(headings: readonly string[], rows: readonly (readonly (string | number)[])[]): Markup {
  const head = headings.map((text) => markup`<th>${text}</th>`);
  const body = rows.map((row) => markup`<tr>${row.map(toCell)}</tr>`);
  return markup`<table><thead><tr>${head}</tr></thead><tbody>${body}</tbody></table>`;
}

const toCell = (cell: string | number): Markup =>
  typeof cell === 'number' ? markup`<td class="figure">${cell}</td>` : markup`<td>${cell}</td>`;
