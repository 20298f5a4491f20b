import { assertNever } from '../assert-never.ts';
import type { ClassSetup } from '../rows/row-model.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import { isSame } from '../values/is-same.ts';
import type { LegDocument, RowDocument, ScenarioDocument } from './scenario-document.ts';

export type LegChange = Partial<Omit<LegDocument, 'id'>>;

/**
 * One edit of a scenario. Places are told by what stands behind (null: the end), values by their fields, so that the edits of two people
 * join. `was` is what an editor saw before: when somebody else has changed that meanwhile, the edit is a conflict and not an overwrite.
 */
export type ScenarioEdit =
  | { readonly kind: 'add leg'; readonly leg: LegDocument; readonly before: string | null }
  | { readonly kind: 'change leg'; readonly leg: string; readonly change: LegChange; readonly was?: LegChange | undefined }
  | { readonly kind: 'move leg'; readonly leg: string; readonly before: string | null }
  | { readonly kind: 'remove leg'; readonly leg: string }
  | { readonly kind: 'add column'; readonly column: Field; readonly before: string | null }
  | { readonly kind: 'change column'; readonly column: string; readonly change: Field }
  | { readonly kind: 'remove column'; readonly column: string }
  | { readonly kind: 'add row'; readonly row: RowDocument; readonly before: string | null }
  | {
      readonly kind: 'change row';
      readonly row: string;
      readonly name?: string | undefined;
      readonly values?: Readonly<Record<string, string>> | undefined;
    }
  | { readonly kind: 'remove row'; readonly row: string }
  | { readonly kind: 'set classes'; readonly classes: ClassSetup | null };

export type ScenarioEditing =
  | { readonly ok: true; readonly document: ScenarioDocument; /** What takes all of it back. */ readonly undo: ScenarioEdit[] }
  | { readonly ok: false; readonly edit: number; readonly isConflict: boolean; readonly message: string };

/** Says why an edit cannot be made; caught by `editScenario`. */
class Refusal extends Error {
  constructor(
    message: string,
    readonly isConflict = false,
  ) {
    super(message);
  }
}

interface Made {
  readonly document: ScenarioDocument;
  readonly undo: readonly ScenarioEdit[];
}

/**
 * Makes edits one after the other: all of them, or none with a sentence that says which one cannot be made. Gives the edits that undo
 * them. An added leg, row or column that is there already was sent twice and changes nothing. Cost O(edits × (legs + rows)).
 */
export function editScenario(document: ScenarioDocument, edits: readonly ScenarioEdit[]): ScenarioEditing {
  let now = document;
  const undo: ScenarioEdit[] = [];
  for (const [index, edit] of edits.entries()) {
    try {
      const made = makeEdit(now, edit);
      now = made.document;
      undo.unshift(...made.undo);
    } catch (error) {
      if (error instanceof Refusal) return { ok: false, edit: index, isConflict: error.isConflict, message: error.message };
      throw error;
    }
  }
  return { ok: true, document: now, undo };
}

function makeEdit(document: ScenarioDocument, edit: ScenarioEdit): Made {
  switch (edit.kind) {
    case 'add leg':
      return addLeg(document, edit);
    case 'change leg':
      return changeLeg(document, edit);
    case 'move leg':
      return moveLeg(document, edit);
    case 'remove leg':
      return removeLeg(document, edit.leg);
    case 'add column':
      return addColumn(document, edit);
    case 'change column':
      return changeColumn(document, edit);
    case 'remove column':
      return removeColumn(document, edit.column);
    case 'add row':
      return addRow(document, edit);
    case 'change row':
      return changeRow(document, edit);
    case 'remove row':
      return removeRow(document, edit.row);
    case 'set classes':
      return { document: { ...document, classes: edit.classes }, undo: [{ kind: 'set classes', classes: document.classes }] };
    default:
      return assertNever(edit);
  }
}

type EditOf<Kind extends ScenarioEdit['kind']> = Extract<ScenarioEdit, { kind: Kind }>;

const unchanged = (document: ScenarioDocument): Made => ({ document, undo: [] });

function insertBefore<Item>(list: readonly Item[], item: Item, isBehind: (other: Item) => boolean): Item[] {
  const at = list.findIndex(isBehind);
  return at < 0 ? [...list, item] : [...list.slice(0, at), item, ...list.slice(at)];
}

function getLeg({ legs }: ScenarioDocument, id: string): LegDocument {
  const leg = legs.find((each) => each.id === id);
  if (!leg) throw new Refusal('That leg is no longer there; somebody else may have taken it out.');
  return leg;
}

const idBehind = (legs: readonly { readonly id: string }[], id: string) => legs[legs.findIndex((leg) => leg.id === id) + 1]?.id ?? null;

function addLeg(document: ScenarioDocument, { leg, before }: EditOf<'add leg'>): Made {
  if (document.legs.some(({ id }) => id === leg.id)) return unchanged(document);
  const legs = insertBefore(document.legs, leg, ({ id }) => id === before);
  return { document: { ...document, legs }, undo: [{ kind: 'remove leg', leg: leg.id }] };
}

function changeLeg(document: ScenarioDocument, { leg: id, change, was }: EditOf<'change leg'>): Made {
  const leg = getLeg(document, id);
  for (const name of Object.keys(was ?? {}) as (keyof LegChange)[]) {
    if (isSame(leg[name], was?.[name]) || isSame(leg[name], change[name])) continue;
    throw new Refusal(describeConflict(document, leg, name, change), true);
  }
  const before = Object.fromEntries(Object.keys(change).map((name) => [name, leg[name as keyof LegDocument]])) as LegChange;
  const legs = document.legs.map((each) => (each.id === id ? { ...each, ...change } : each));
  return { document: { ...document, legs }, undo: [{ kind: 'change leg', leg: id, change: before }] };
}

const CHANGE_LABELS: Readonly<Record<keyof LegChange, string>> = {
  ...{ test: 'test', version: 'version', title: 'words', team: 'lane', persona: 'persona', after: 'place in the order', wires: 'wiring' },
  ...{ waitDays: 'waiting days', samePersonAs: 'same person', otherPersonThan: 'other person', note: 'note' },
  ...{ needs: 'needed values', gives: 'given values' },
};

function describeConflict({ legs }: ScenarioDocument, leg: LegDocument, name: keyof LegChange, change: LegChange): string {
  const [theirs, mine] = [leg[name], change[name]];
  const both = typeof theirs === 'string' && typeof mine === 'string' ? ` There it says “${theirs}”, here “${mine}”.` : '';
  return `Somebody else has changed the ${CHANGE_LABELS[name]} of leg ${legs.indexOf(leg) + 1} meanwhile.${both} Look at it and change it again if need be.`;
}

function moveLeg(document: ScenarioDocument, { leg: id, before }: EditOf<'move leg'>): Made {
  const leg = getLeg(document, id);
  if (before === id) return unchanged(document);
  const others = document.legs.filter((each) => each.id !== id);
  return {
    document: { ...document, legs: insertBefore(others, leg, (other) => other.id === before) },
    undo: [{ kind: 'move leg', leg: id, before: idBehind(document.legs, id) }],
  };
}

/** Takes a leg out; what was wired to it, waited for it or named it is let go, and comes back with it. */
function removeLeg(document: ScenarioDocument, id: string): Made {
  const leg = document.legs.find((each) => each.id === id);
  if (!leg) return unchanged(document);
  const undo: ScenarioEdit[] = [{ kind: 'add leg', leg, before: idBehind(document.legs, id) }];
  const legs = document.legs.flatMap((other) => {
    if (other.id === id) return [];
    const change = forgetLeg(other, id);
    const names = Object.keys(change) as (keyof LegChange)[];
    if (names.length === 0) return [other];
    undo.push({ kind: 'change leg', leg: other.id, change: Object.fromEntries(names.map((name) => [name, other[name]])) });
    return [{ ...other, ...change }];
  });
  return { document: { ...document, legs }, undo };
}

function forgetLeg(leg: LegDocument, id: string): LegChange {
  const after = leg.after?.filter((each) => each !== id);
  const wires = leg.wires.filter(({ from }) => from.kind !== 'leg' || from.leg !== id);
  return {
    // A leg that waited only for this one waits for the leg before it again.
    ...(leg.after?.includes(id) ? { after: after && after.length > 0 ? after : null } : {}),
    ...(wires.length < leg.wires.length ? { wires } : {}),
    ...(leg.samePersonAs === id ? { samePersonAs: null } : {}),
    ...(leg.otherPersonThan.includes(id) ? { otherPersonThan: leg.otherPersonThan.filter((each) => each !== id) } : {}),
  };
}

const isNamed = (name: string) => (field: Field) => toNameKey(field.name) === toNameKey(name);

function getColumn({ columns }: ScenarioDocument, name: string): Field {
  const column = columns.find(isNamed(name));
  if (!column) throw new Refusal(`There is no column ${name} any more.`);
  return column;
}

function addColumn(document: ScenarioDocument, { column, before }: EditOf<'add column'>): Made {
  if (document.columns.some(isNamed(column.name))) return unchanged(document);
  const columns = insertBefore(document.columns, column, ({ name }) => name === before);
  return { document: { ...document, columns }, undo: [{ kind: 'remove column', column: column.name }] };
}

/** Changes a column; under a new name its values, and what is wired to it, go with it. */
function changeColumn(document: ScenarioDocument, { column: name, change }: EditOf<'change column'>): Made {
  const column = getColumn(document, name);
  const isRenamed = toNameKey(column.name) !== toNameKey(change.name);
  if (isRenamed && document.columns.some(isNamed(change.name))) throw new Refusal(`There is a column ${change.name} already.`);
  const columns = document.columns.map((each) => (each === column ? change : each));
  const undo: ScenarioEdit[] = [{ kind: 'change column', column: change.name, change: column }];
  if (column.name === change.name) return { document: { ...document, columns }, undo };
  const rename = (values: Readonly<Record<string, string>>) =>
    Object.fromEntries(Object.entries(values).map(([key, value]) => [isNamed(key)(column) ? change.name : key, value]));
  return {
    document: {
      ...document,
      columns,
      rows: document.rows.map((row) => ({ ...row, values: rename(row.values) })),
      legs: document.legs.map((leg) => ({ ...leg, wires: leg.wires.map((wire) => renameColumn(wire, column.name, change.name)) })),
      classes: document.classes && {
        ...document.classes,
        columns: document.classes.columns.map((each) => (isNamed(each.name)(column) ? { ...each, name: change.name } : each)),
        forbidden: document.classes.forbidden.map(rename),
        mustHave: document.classes.mustHave.map(rename),
      },
    },
    undo,
  };
}

function renameColumn(wire: LegDocument['wires'][number], name: string, to: string): LegDocument['wires'][number] {
  return wire.from.kind === 'column' && toNameKey(wire.from.column) === toNameKey(name)
    ? { ...wire, from: { kind: 'column', column: to } }
    : wire;
}

function removeColumn(document: ScenarioDocument, name: string): Made {
  const column = document.columns.find(isNamed(name));
  if (!column) return unchanged(document);
  const behind = document.columns[document.columns.indexOf(column) + 1]?.name ?? null;
  const drop = (values: Readonly<Record<string, string>>) =>
    Object.fromEntries(Object.entries(values).filter(([key]) => !isNamed(key)(column)));
  const values = document.rows.flatMap((row): ScenarioEdit[] => {
    const value = row.values[column.name];
    return value === undefined ? [] : [{ kind: 'change row', row: row.id, values: { [column.name]: value } }];
  });
  const { classes } = document;
  const kept = classes && { ...classes, columns: classes.columns.filter((each) => !isNamed(each.name)(column)) };
  return {
    document: {
      ...document,
      columns: document.columns.filter((each) => each !== column),
      rows: document.rows.map((row) => ({ ...row, values: drop(row.values) })),
      classes: kept && { ...kept, forbidden: kept.forbidden.filter((each) => isSame(drop(each), each)), mustHave: kept.mustHave.map(drop) },
    },
    undo: [{ kind: 'add column', column, before: behind }, ...values, ...(classes ? [{ kind: 'set classes' as const, classes }] : [])],
  };
}

function addRow(document: ScenarioDocument, { row, before }: EditOf<'add row'>): Made {
  if (document.rows.some(({ id }) => id === row.id)) return unchanged(document);
  const named = { ...row, name: findFreeName(document.rows, row.name) };
  const rows = insertBefore(document.rows, named, ({ id }) => id === before);
  return { document: { ...document, rows }, undo: [{ kind: 'remove row', row: row.id }] };
}

/** Row names are unique: a second “Row 1” becomes “Row 1 (2)”. */
function findFreeName(rows: readonly RowDocument[], name: string): string {
  const taken = new Set(rows.map((row) => toNameKey(row.name)));
  if (!taken.has(toNameKey(name))) return name;
  let number = 2;
  while (taken.has(toNameKey(`${name} (${number})`))) number += 1;
  return `${name} (${number})`;
}

function changeRow(document: ScenarioDocument, { row: id, name, values }: EditOf<'change row'>): Made {
  const row = document.rows.find((each) => each.id === id);
  if (!row) throw new Refusal('That data row is no longer there; somebody else may have taken it out.');
  if (name !== undefined && document.rows.some((other) => other.id !== id && toNameKey(other.name) === toNameKey(name)))
    throw new Refusal(`There is a data row “${name}” already.`);
  const changed = { ...row, name: name ?? row.name, values: { ...row.values, ...values } };
  const before = Object.fromEntries(Object.keys(values ?? {}).map((key) => [key, row.values[key] ?? '']));
  return {
    document: { ...document, rows: document.rows.map((each) => (each.id === id ? changed : each)) },
    undo: [{ kind: 'change row', row: id, ...(name === undefined ? {} : { name: row.name }), ...(values ? { values: before } : {}) }],
  };
}

function removeRow(document: ScenarioDocument, id: string): Made {
  const row = document.rows.find((each) => each.id === id);
  if (!row) return unchanged(document);
  return {
    document: { ...document, rows: document.rows.filter((each) => each !== row) },
    undo: [{ kind: 'add row', row, before: idBehind(document.rows, id) }],
  };
}
