/** Values of data rows beside the types of their columns. */
import type { ClassSetup } from '../rows/row-model.ts';
import type { ValueCheck } from '../values/check-value.ts';
import { checkValue } from '../values/check-value.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import { parseTemplate } from '../values/template.ts';
import type { ScenarioDocument } from './scenario-document.ts';

/**
 * Checks a cell of a data row. Nothing at all, a value that is made when the turn begins (`{today + 3 days}`), and a value that is an invalid
 * class of its column, which is there to be refused, are as they should be. Cost O(length + classes).
 */
export function checkCell(column: Field, typed: string, classes: ClassSetup | null): ValueCheck {
  const isMade = parseTemplate(typed).some(({ kind }) => kind !== 'text');
  const isMeant = findClasses(column, classes).some(({ kind, value }) => kind === 'invalid' && toNameKey(value) === toNameKey(typed));
  return typed.trim() === '' || isMade || isMeant ? { ok: true, value: typed } : checkValue(column, typed);
}

const findClasses = ({ name }: Field, classes: ClassSetup | null) =>
  classes?.columns.find((column) => toNameKey(column.name) === toNameKey(name))?.classes ?? [];

export interface WrongCell {
  readonly row: string;
  readonly column: Field;
  readonly message: string;
}

/** Every cell whose value is not of its column's type, in the order of the rows. Cost O(cells). */
export function findWrongCells({ columns, rows, classes }: Pick<ScenarioDocument, 'columns' | 'rows' | 'classes'>): WrongCell[] {
  return rows.flatMap(({ name, values }) =>
    columns.flatMap((column) => {
      const check = checkCell(column, values[column.name] ?? '', classes);
      return check.ok ? [] : [{ row: name, column, message: check.message }];
    }),
  );
}

/** Why a scenario cannot be agreed as it is, in a sentence without its subject; null: it can. */
export function whyNotAgreed(document: ScenarioDocument): string | null {
  if (document.legs.length === 0) return 'has no legs yet.';
  const open = document.legs.filter(({ test }) => test === null).length;
  if (open > 0) return `has ${open} open ${open === 1 ? 'leg' : 'legs'}; it stays a sketch until their tests are written.`;
  const [wrong, ...others] = findWrongCells(document);
  if (!wrong) return null;
  const place = `“${wrong.row}”: ${wrong.message}`;
  return others.length === 0
    ? `has a value that is not of its column’s type: ${place}`
    : `has ${others.length + 1} values that are not of their column’s type; the first is in data row ${place}`;
}
