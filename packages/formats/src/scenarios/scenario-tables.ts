import type { WireSource } from '@kindred-baton/core/scenarios/chain';
import type { ExportedScenario, FileLeg, ScenarioFile } from '@kindred-baton/core/scenarios/scenario-file';
import type { TextTable } from '@kindred-baton/core/tables/text-table';
import type { Field, FieldType } from '@kindred-baton/core/values/field';
import { FIELD_TYPE_LABELS, FIELD_TYPES, guessFieldType, toNameKey } from '@kindred-baton/core/values/field';
import type { OutTable } from '../tables/write-tables.ts';

/** The sheets of a scenario's workbook, and their columns; reader and writer follow from them. */
const SCENARIO_SHEETS = {
  scenario: { name: 'Scenario', columns: ['Code', 'Name', 'Process'] },
  legs: {
    name: 'Legs',
    columns: [
      ...['Leg', 'Test', 'Version', 'Words', 'Lane', 'Persona', 'After', 'Waiting days', 'Same person as', 'Never the same person as'],
      ...['Note to testers', 'Needs', 'Gives', 'Key'],
    ],
  },
  wires: { name: 'Wires', columns: ['Leg', 'Need', 'From leg', 'Output', 'Converted', 'Column', 'Always', 'New'] },
  columns: { name: 'Columns', columns: ['Column', 'Type', 'Choices', 'Pattern', 'Required', 'Example'] },
  rows: { name: 'Data rows', columns: ['Row'] },
} as const;

/** What stands in After: nothing is *the leg before*; this is *none*. */
const NONE = 'none';

/** A scenario as a workbook: legs are numbered, and named by their numbers. `readScenarioTables` reads it back. */
export function toScenarioTables({ file }: ExportedScenario): OutTable[] {
  const numberOf = new Map(file.legs.map(({ key }, index) => [key, String(index + 1)]));
  const toNumbers = (keys: readonly string[]) => keys.map((key) => numberOf.get(key) ?? '').join(', ');
  const { columns, rows } = file.data ?? { columns: [], rows: [] };
  return [
    { sheet: SCENARIO_SHEETS.scenario.name, headings: SCENARIO_SHEETS.scenario.columns, rows: [[file.code, file.name, file.node ?? '']] },
    {
      sheet: SCENARIO_SHEETS.legs.name,
      headings: SCENARIO_SHEETS.legs.columns,
      rows: file.legs.map((leg, index) => [
        ...[index + 1, leg.test ?? '', leg.version ?? '', leg.title ?? '', leg.lane ?? '', leg.persona ?? ''],
        leg.after === null ? '' : leg.after.length === 0 ? NONE : toNumbers(leg.after),
        ...[leg.waitDays, leg.samePersonAs === null ? '' : toNumbers([leg.samePersonAs]), toNumbers(leg.otherPersonThan)],
        ...[leg.note, printFields(leg.needs), printFields(leg.gives), leg.key],
      ]),
    },
    {
      sheet: SCENARIO_SHEETS.wires.name,
      headings: SCENARIO_SHEETS.wires.columns,
      rows: file.legs.flatMap((leg, index) =>
        leg.wires.map(({ need, from }) => [index + 1, need, ...toWireCells(from, (key) => numberOf.get(key) ?? '')]),
      ),
    },
    { sheet: SCENARIO_SHEETS.columns.name, headings: SCENARIO_SHEETS.columns.columns, rows: columns.map(toColumnCells) },
    {
      sheet: SCENARIO_SHEETS.rows.name,
      headings: ['Row', ...columns.map(({ name }) => name)],
      rows: rows.map(({ name, values }) => [name, ...columns.map((column) => values[column.name] ?? '')]),
    },
  ];
}

function toWireCells(from: WireSource, toNumber: (key: string) => string): string[] {
  return [
    from.kind === 'leg' ? toNumber(from.leg) : '',
    from.kind === 'leg' ? from.gives : '',
    from.kind === 'leg' && from.convert ? 'yes' : '',
    from.kind === 'column' ? from.column : '',
    from.kind === 'fixed' ? from.value : '',
    from.kind === 'new' ? from.pattern : '',
  ];
}

const toColumnCells = ({ name, type, choices, pattern, required, example }: Field) => [
  ...[
    name,
    FIELD_TYPE_LABELS[type],
    choices?.join('; ') ?? '',
    pattern ?? '',
    required === undefined ? '' : required ? 'yes' : 'no',
    example ?? '',
  ],
];

/** “Survey no.: code \SV-99999” with commas between them; the type is left out where the name says it. */
function printFields(fields: readonly Field[]): string {
  return fields.map(({ name, type }) => (type === guessFieldType(name) ? name : `${name}: ${FIELD_TYPE_LABELS[type]}`)).join(', ');
}

function parseFields(text: string): Field[] {
  return text.split(',').flatMap((part) => {
    const [name = '', type = ''] = part.split(/:(?=[^:]*$)/).map((piece) => piece.trim());
    return name === '' ? [] : [{ name, type: findType(type) ?? guessFieldType(name), required: true }];
  });
}

const findType = (words: string): FieldType | undefined =>
  FIELD_TYPES.find((type) => toNameKey(FIELD_TYPE_LABELS[type]) === toNameKey(words) || type === toNameKey(words));

export type ScenarioReading =
  | { readonly ok: true; readonly file: ScenarioFile; readonly warnings: readonly string[] }
  | { readonly ok: false; readonly message: string };

/** Reads the sheets of a scenario's workbook; only Legs must be there. Never throws. Cost O(cells). */
export function readScenarioTables(tables: readonly TextTable[]): ScenarioReading {
  const find = (key: keyof typeof SCENARIO_SHEETS) => tables.find(({ sheet }) => toNameKey(sheet) === toNameKey(SCENARIO_SHEETS[key].name));
  const legTable = find('legs');
  if (!legTable) return { ok: false, message: 'The workbook has no sheet Legs. Export a scenario to see the sheets that are read.' };
  const head = toRecords(find('scenario'))[0];
  const records = toRecords(legTable);
  const problem = records.flatMap((record) => findProblem(record))[0];
  if (problem !== undefined) return { ok: false, message: problem };
  const keyOf = new Map(records.map(({ number, cells }, index) => [cells('Leg') || String(index + 1), cells('Key') || `row ${number}`]));
  const warnings: string[] = [];
  const toKey = (text: string, number: number): string[] => {
    const key = keyOf.get(text.trim());
    if (key === undefined) warnings.push(`Sheet Legs, row ${number}: there is no leg ${text.trim()}; that is left out.`);
    return key === undefined ? [] : [key];
  };
  const wires = toRecords(find('wires'));
  const columns = toRecords(find('columns')).flatMap(({ cells }) => readColumn(cells));
  return {
    ok: true,
    warnings,
    file: {
      ...{ code: head?.cells('Code') || null, name: head?.cells('Name') || null, node: head?.cells('Process') || null },
      legs: records.map((record, index) => readLeg(record, { index, toKey, wires })),
      data: find('columns') || find('rows') ? { columns: withHeadings(columns, find('rows')), rows: readRows(find('rows')) } : null,
    },
  };
}

interface TableRecord {
  readonly number: number;
  readonly cells: (heading: string) => string;
}

function toRecords(table: TextTable | undefined): TableRecord[] {
  const places = new Map((table?.headings ?? []).map((heading, column) => [toNameKey(heading), column]));
  return (table?.rows ?? [])
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
    .map(({ number, cells }) => ({ number, cells: (heading) => (cells[places.get(toNameKey(heading)) ?? -1] ?? '').trim() }));
}

function findProblem({ number, cells }: TableRecord): string[] {
  const days = cells('Waiting days');
  if (cells('Test') === '' && cells('Words') === '')
    return [`Sheet Legs, row ${number}: name a test, or say in Words what is to be written.`];
  if (days !== '' && !/^\d{1,3}$/.test(days)) return [`Sheet Legs, row ${number}, Waiting days: “${days}” is no number of days.`];
  return [];
}

interface LegParts {
  readonly index: number;
  readonly toKey: (text: string, number: number) => string[];
  readonly wires: readonly TableRecord[];
}

function readLeg({ number, cells }: TableRecord, { index, toKey, wires }: LegParts): FileLeg {
  const list = (text: string) => text.split(/[,;]/).flatMap((part) => (part.trim() === '' ? [] : toKey(part, number)));
  const after = cells('After');
  const own = wires.filter((wire) => wire.cells('Leg') === (cells('Leg') || String(index + 1)));
  return {
    ...{ key: cells('Key') || `row ${number}`, test: cells('Test') || null, title: cells('Words') || null },
    version: /^\d+$/.test(cells('Version')) ? Number(cells('Version')) : null,
    ...{ lane: cells('Lane') || null, persona: cells('Persona') || null, note: cells('Note to testers') },
    after: after === '' ? null : toNameKey(after) === NONE ? [] : list(after),
    waitDays: Number(cells('Waiting days') || 0),
    samePersonAs: list(cells('Same person as'))[0] ?? null,
    otherPersonThan: list(cells('Never the same person as')),
    wires: own.flatMap((wire) => readWire(wire, toKey)),
    ...{ needs: parseFields(cells('Needs')), gives: parseFields(cells('Gives')) },
  };
}

function readWire({ number, cells }: TableRecord, toKey: LegParts['toKey']): FileLeg['wires'] {
  const need = cells('Need');
  if (need === '') return [];
  if (cells('From leg') !== '') {
    const convert = toNameKey(cells('Converted')) === 'yes' ? { convert: true } : {};
    return toKey(cells('From leg'), number).map((leg) => ({
      need,
      from: { kind: 'leg', leg, gives: cells('Output') || need, ...convert },
    }));
  }
  if (cells('Column') !== '') return [{ need, from: { kind: 'column', column: cells('Column') } }];
  if (cells('Always') !== '') return [{ need, from: { kind: 'fixed', value: cells('Always') } }];
  return cells('New') === '' ? [] : [{ need, from: { kind: 'new', pattern: cells('New') } }];
}

function readColumn(cells: TableRecord['cells']): Field[] {
  const name = cells('Column');
  if (name === '') return [];
  const choices = cells('Choices')
    .split(';')
    .flatMap((choice) => (choice.trim() === '' ? [] : [choice.trim()]));
  return [
    {
      ...{ name, type: findType(cells('Type')) ?? guessFieldType(name) },
      ...(choices.length > 0 ? { choices } : {}),
      ...(cells('Pattern') === '' ? {} : { pattern: cells('Pattern') }),
      ...(cells('Required') === '' ? {} : { required: toNameKey(cells('Required')) !== 'no' }),
      ...(cells('Example') === '' ? {} : { example: cells('Example') }),
    },
  ];
}

/** A heading of the data rows that no column names is a column of its own. */
function withHeadings(columns: readonly Field[], table: TextTable | undefined): Field[] {
  const known = new Set(columns.map(({ name }) => toNameKey(name)));
  const more = (table?.headings ?? []).filter(
    (heading) => heading.trim() !== '' && toNameKey(heading) !== 'row' && !known.has(toNameKey(heading)),
  );
  return [...columns, ...more.map((name) => ({ name: name.trim(), type: guessFieldType(name), required: true }))];
}

function readRows(table: TextTable | undefined): { name: string; values: Record<string, string> }[] {
  return toRecords(table).map(({ number, cells }) => {
    const names = (table?.headings ?? [])
      .map((heading) => heading.trim())
      .filter((heading) => heading !== '' && toNameKey(heading) !== 'row');
    const values = names.flatMap((name) => (cells(name) === '' ? [] : [[name, cells(name)] as const]));
    return { name: cells('Row') || `Row ${number - 1}`, values: Object.fromEntries(values) };
  });
}
