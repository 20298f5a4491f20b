/** What spreadsheets would run, and what would end a cell or a row early. */
const FORMULA_START = /^[=+\-@]/;
const BREAKS = /[\t\r\n]+/g;
const NUMBER = /^[+-]?\d+([.,]\d+)?$/;

/** JSON lines as lines with tabs, headings first. A cell that a spreadsheet would take for a formula gets an apostrophe (OWASP, CSV Injection). */
export function toLines(jsonLines: string): string {
  const rows = jsonLines
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => JSON.parse(line) as Record<string, string | number | boolean | null>);
  const heads = Object.keys(rows[0] ?? {});
  return [heads, ...rows.map((row) => heads.map((head) => toCell(row[head] ?? '')))].map((cells) => cells.join('\t')).join('\r\n');
}

function toCell(value: string | number | boolean): string {
  const text = String(value).replace(BREAKS, ' ');
  return typeof value === 'string' && FORMULA_START.test(text) && !NUMBER.test(text) ? `'${text}` : text;
}
