import type { ImportedField, ImportedNode, ImportedRow } from '@kindred-baton/core/imports/workbook-sheets';
import type { ImportProblem } from '@kindred-baton/core/tables/place';
import { FIELD_TYPES, FIELD_TYPE_LABELS } from '@kindred-baton/core/values/field';
import type { FieldType } from '@kindred-baton/core/values/field';
import type { Part } from './read-cells.ts';
import { createRowReader } from './read-cells.ts';
import type { TableRow } from './read-table.ts';

export function readNodeRows(rows: readonly TableRow[]): Part<ImportedNode> {
  const problems: ImportProblem[] = [];
  const items = rows.map((row) => {
    const read = createRowReader(row, problems);
    return {
      place: row.place,
      code: read.code('Code'),
      name: read.required('Name'),
      parent: read.optional('Parent'),
      team: read.optional('Team'),
      application: read.optional('Application'),
      isCritical: read.yesNo('Critical'),
      description: read.optional('Description'),
    };
  });
  return { items, problems };
}

export function readFieldRows(rows: readonly TableRow[]): Part<ImportedField> {
  const problems: ImportProblem[] = [];
  const items = rows.map((row) => {
    const read = createRowReader(row, problems);
    const word = read.required('Type').toLowerCase();
    const type = findType(word);
    if (word !== '' && !type) read.fail('Type', `“${word}” is not a type. Known: ${Object.values(FIELD_TYPE_LABELS).join(', ')}.`);
    const choices = row
      .text('Choices')
      .split(';')
      .map((choice) => choice.trim())
      .filter((choice) => choice !== '');
    if (type === 'choice' && choices.length === 0) read.fail('Choices', 'A choice needs its values, separated by semicolons.');
    return {
      place: row.place,
      test: read.code('Test'),
      field: {
        name: read.required('Value'),
        type: type ?? 'text',
        required: true,
        ...(choices.length > 0 ? { choices } : {}),
        ...(row.text('Pattern') === '' ? {} : { pattern: row.text('Pattern') }),
        ...(row.text('Example') === '' ? {} : { example: row.text('Example') }),
      },
    };
  });
  return { items, problems };
}

function findType(word: string): FieldType | undefined {
  return FIELD_TYPES.find((type) => type === word || FIELD_TYPE_LABELS[type] === word);
}

export function readRowRows(rows: readonly TableRow[]): Part<ImportedRow> {
  const problems: ImportProblem[] = [];
  const items = rows.map((row) => {
    const read = createRowReader(row, problems);
    return { place: row.place, scenario: read.code('Scenario'), name: read.required('Row'), values: row.values };
  });
  return { items, problems };
}
