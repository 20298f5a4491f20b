import { escapeXml } from '../xml/escape-xml.ts';

/** Small parts of printable documents; texts are escaped here. */
export const heading = (level: 1 | 2 | 3, text: string) => `<h${level}>${escapeXml(text)}</h${level}>`;

export const paragraph = (text: string, kind = '') =>
  text === '' ? '' : `<p${kind === '' ? '' : ` class="${kind}"`}>${escapeXml(text)}</p>`;

export const list = (items: readonly string[]) =>
  items.length === 0 ? '' : `<ul>${items.map((item) => `<li>${escapeXml(item)}</li>`).join('')}</ul>`;

export const orderedList = (items: readonly string[]) =>
  items.length === 0 ? '' : `<ol>${items.map((item) => `<li>${escapeXml(item)}</li>`).join('')}</ol>`;

/** A table of text and numbers; numbers stand at the right. */
export function table(headings: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  const head = `<thead><tr>${headings.map((text) => `<th>${escapeXml(text)}</th>`).join('')}</tr></thead>`;
  const body = rows.map(
    (row) =>
      `<tr>${row.map((cell) => `<td${typeof cell === 'number' ? ' class="figure"' : ''}>${escapeXml(String(cell))}</td>`).join('')}</tr>`,
  );
  return `<table>${head}<tbody>${body.join('')}</tbody></table>`;
}
