import { foldWords } from '../screens/capture.ts';
import { holdsWords } from '../screens/read-shown.ts';

export type Json = null | boolean | number | string | readonly Json[] | { readonly [name: string]: Json };

/** What came back from a door. */
export interface Answer {
  /** By RFC 9110; null of a database. */
  readonly code: number | null;
  /** The rows of a database, each by its columns; of an interface its JSON, or its text. */
  readonly body: Json;
  /** Of a database, in order; else empty. */
  readonly columns: readonly string[];
  /** There was more than is read of an answer. */
  readonly isCut: boolean;
}

/** What a name finds in an answer. */
export type AnswerFinding =
  | { readonly kind: 'found'; readonly items: readonly string[]; readonly count: number | null; readonly headings: readonly string[] }
  | { readonly kind: 'none'; readonly message: string };

/** Finds by a JSONPath (RFC 9535), which the core leaves to others; undefined when it is none. */
export type QueryJson = (body: Json, path: string) => readonly Json[] | undefined;

type Row = Readonly<Record<string, Json>>;
const isRow = (value: Json): value is Row => typeof value === 'object' && value !== null && !Array.isArray(value);
const listRows = (body: Json): readonly Row[] | undefined =>
  Array.isArray(body) && body.every(isRow) ? (body as readonly Row[]) : undefined;

/** A value as people write it: text without quotes, nothing for null. */
function printJson(value: Json): string {
  if (value === null) return '';
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

/** What is not a column or a field of the answer: its rows, all of it, the code of an interface. */
export const WHOLE = { rows: 'rows', answer: 'answer', code: 'status code' } as const;

/**
 * Finds what a step calls: a path (`$.state`), a column or a field by its name, *rows*, *answer*, *status code*. Beside narrows to the rows that hold its
 * words. Cost O(size of the answer).
 */
export function findInAnswer(
  answer: Answer,
  { name, beside }: { name: string; beside?: string | undefined },
  query: QueryJson,
): AnswerFinding {
  const found = (values: readonly Json[], more: { count?: number; headings?: readonly string[] } = {}): AnswerFinding => ({
    ...{ kind: 'found', items: values.map(printJson), count: more.count ?? null, headings: more.headings ?? [] },
  });
  if (name.startsWith('$')) {
    const values = query(answer.body, name);
    return values ? found(values) : { kind: 'none', message: `“${name}” is no path: RFC 9535 has $.name, $.list[0], $.list[*].name.` };
  }
  const words = foldWords(name);
  const rows = listRows(answer.body)?.filter((row) => beside === undefined || holdsIn(row, beside));
  if (rows?.length === 0 && beside !== undefined) return { kind: 'none', message: `The answer has no row with “${beside}”.` };
  if (rows && words === WHOLE.rows) return found(rows, { count: rows.length, headings: answer.columns });
  if (words === WHOLE.answer) return found([answer.body]);
  if (answer.code !== null && words === WHOLE.code) return found([answer.code]);
  const fields = rows ? listFields(answer, rows) : isRow(answer.body) ? Object.keys(answer.body) : [];
  const field = fields.find((one) => foldWords(one) === words);
  if (field !== undefined)
    return found(
      (rows ?? [answer.body as Row]).flatMap((row) => (Object.hasOwn(row, field) ? [row[field]!] : [])),
      { headings: [field] },
    );
  const known = [...fields, ...(rows ? [WHOLE.rows] : []), ...(answer.code === null ? [] : [WHOLE.code])];
  return { kind: 'none', message: `The answer has no “${name}”. It has ${known.slice(0, 12).join(', ') || 'nothing with a name'}.` };
}

const listFields = (answer: Answer, rows: readonly Row[]) =>
  answer.columns.length > 0 ? answer.columns : [...new Set(rows.flatMap((row) => Object.keys(row)))];

const holdsIn = (value: Json, words: string): boolean => {
  const wanted = foldWords(words);
  return wanted !== '' && listScalars(value).some((line) => holdsWords(foldWords(line), wanted));
};

function listScalars(value: Json): string[] {
  if (typeof value !== 'object' || value === null) return [printJson(value)];
  return Object.values(value).flatMap((inner: Json) => listScalars(inner));
}

/** Whether words stand somewhere in an answer, whole, as on a screen. */
export const isInAnswer = ({ body }: Answer, words: string): boolean => holdsIn(body, words);

/** The one value of an answer that has no more than one; undefined of any other. */
export function readSingle({ body }: Answer): string | undefined {
  const values = listScalars(body);
  return values.length === 1 ? values[0] : undefined;
}

/** An answer as text, for reports: one row a line, JSON as it is written, at most `most` signs. */
export function printAnswer(answer: Answer, most = 2_000): string {
  const rows = answer.columns.length > 0 ? (listRows(answer.body) ?? []) : undefined;
  const lines = rows
    ? [
        `${rows.length}${answer.isCut ? ' and more' : ''} ${rows.length === 1 && !answer.isCut ? 'row' : 'rows'}`,
        ...rows.map((row) => answer.columns.map((column) => `${column}: ${printJson(row[column] ?? null)}`).join(' · ')),
      ]
    : [
        ...(answer.code === null ? [] : [`Status code ${answer.code}`]),
        typeof answer.body === 'string' ? answer.body : JSON.stringify(answer.body, null, 1),
      ];
  const text = lines.join('\n');
  return text.length <= most ? text : `${text.slice(0, most - 1)}…`;
}
