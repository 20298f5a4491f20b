import type { SaveTest, TestDetail } from '@kindred-baton/contracts/tests/test';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import type { Step } from '@kindred-baton/core/tests/step';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { Field } from '@kindred-baton/core/values/field';

type Content = Pick<SaveTest, 'name' | 'minutes' | 'steps' | 'needs' | 'gives' | 'rows'>;

export interface TestDraft extends Content {
  readonly base: SaveTest['base'];
  readonly isChanged: boolean;
  /** Counts the edits, so that a save that comes back knows whether more were made meanwhile. */
  readonly edits: number;
  readonly undos: readonly Content[];
  readonly redos: readonly Content[];
  /** The cell that was typed in last: the next letter in it joins the same undo. */
  readonly cell: string | null;
  /** Values of other tests: a name that is new here takes the type that it has there. */
  readonly elsewhere: readonly Field[];
}

export type DraftEvent =
  | { readonly kind: 'name'; readonly name: string }
  | { readonly kind: 'minutes'; readonly minutes: number }
  | { readonly kind: 'step'; readonly index: number; readonly change: Partial<Step> }
  | { readonly kind: 'insert'; readonly index: number; readonly steps: readonly Step[] }
  | { readonly kind: 'remove'; readonly indexes: readonly number[] }
  | { readonly kind: 'duplicate'; readonly indexes: readonly number[] }
  | { readonly kind: 'move'; readonly indexes: readonly number[]; readonly by: -1 | 1 }
  /** `isTyped`: letter by letter, as sentences; a sitting of it is one undo. */
  | { readonly kind: 'steps'; readonly steps: readonly Step[]; readonly isTyped?: boolean }
  | { readonly kind: 'field'; readonly field: Field }
  | { readonly kind: 'rows'; readonly rows: Content['rows'] }
  | { readonly kind: 'tidied'; readonly steps: readonly Step[]; readonly inputs: Readonly<Record<string, string>> }
  | { readonly kind: 'undo' }
  | { readonly kind: 'redo' }
  | { readonly kind: 'saved'; readonly base: SaveTest['base']; readonly edits: number }
  | { readonly kind: 'rebase'; readonly base: SaveTest['base'] }
  | { readonly kind: 'elsewhere'; readonly fields: readonly Field[] };

export const EMPTY_STEP: Step = { do: 'fill', target: '' };
const MOST_UNDOS = 100;

export function createDraft({ name, minutes, version }: Pick<TestDetail, 'name' | 'minutes' | 'version'>): TestDraft {
  const { number, revision, steps, needs, gives, rows } = version;
  const content = { name, minutes, steps, needs, gives, rows };
  return { ...content, base: { number, revision }, isChanged: false, edits: 0, undos: [], redos: [], cell: null, elsewhere: [] };
}

/** An edit of a test; needs and gives follow the steps, with the types that were confirmed. Typing in one cell is one undo. */
export function reduceDraft(draft: TestDraft, event: DraftEvent): TestDraft {
  switch (event.kind) {
    case 'saved':
      return { ...draft, base: event.base, isChanged: draft.edits !== event.edits };
    case 'rebase':
      return { ...draft, base: event.base, isChanged: true };
    case 'elsewhere':
      return { ...draft, elsewhere: event.fields };
    case 'undo':
      return turnBack(draft, 'undos', 'redos');
    case 'redo':
      return turnBack(draft, 'redos', 'undos');
    default: {
      const cell = toCell(event);
      const undos = cell !== null && cell === draft.cell ? draft.undos : [...draft.undos.slice(1 - MOST_UNDOS), toContent(draft)];
      return { ...draft, ...edit(draft, event), isChanged: true, edits: draft.edits + 1, undos, redos: [], cell };
    }
  }
}

type Edit = Exclude<DraftEvent, { kind: 'saved' | 'rebase' | 'elsewhere' | 'undo' | 'redo' }>;

function toCell(event: Edit): string | null {
  if (event.kind === 'step') return `step ${event.index} ${Object.keys(event.change).join()}`;
  if (event.kind === 'steps') return event.isTyped ? 'sentences' : null;
  return event.kind === 'name' || event.kind === 'minutes' ? event.kind : null;
}

function toContent({ name, minutes, steps, needs, gives, rows }: Content): Content {
  return { name, minutes, steps, needs, gives, rows };
}

function turnBack(draft: TestDraft, from: 'undos' | 'redos', to: 'undos' | 'redos'): TestDraft {
  const content = draft[from].at(-1);
  if (!content) return draft;
  return {
    ...{ ...draft, ...content, isChanged: true, edits: draft.edits + 1, cell: null },
    [from]: draft[from].slice(0, -1),
    [to]: [...draft[to], toContent(draft)],
  };
}

function edit(draft: TestDraft, event: Edit): Partial<Content> {
  switch (event.kind) {
    case 'name':
      return { name: event.name };
    case 'minutes':
      return { minutes: event.minutes };
    case 'step':
      return withSteps(
        draft,
        draft.steps.map((step, index) => (index === event.index ? { ...step, ...event.change } : step)),
      );
    case 'insert':
      return withSteps(draft, [...draft.steps.slice(0, event.index), ...event.steps, ...draft.steps.slice(event.index)]);
    case 'remove': {
      const gone = new Set(event.indexes);
      return withSteps(
        draft,
        draft.steps.filter((_, index) => !gone.has(index)),
      );
    }
    case 'duplicate': {
      const copies = [...event.indexes].sort((a, b) => a - b).flatMap((index) => draft.steps[index] ?? []);
      const at = Math.max(-1, ...event.indexes) + 1;
      return withSteps(draft, [...draft.steps.slice(0, at), ...copies, ...draft.steps.slice(at)]);
    }
    case 'move':
      return withSteps(draft, moveSteps(draft.steps, event.indexes, event.by));
    case 'steps':
      return withSteps(draft, event.steps);
    case 'field':
      return { needs: draft.needs.map(confirm(event.field)), gives: draft.gives.map(confirm(event.field)) };
    case 'rows':
      return { rows: event.rows };
    case 'tidied':
      return { ...withSteps(draft, event.steps), rows: addInputs(draft.rows, event.inputs) };
  }
}

/** A value that is both needed and given has one type. */
const confirm = (field: Field) => (old: Content['needs'][number]) =>
  toNameKey(old.name) === toNameKey(field.name) ? toMutable({ ...field, name: old.name }) : old;

function withSteps(draft: TestDraft, steps: readonly Step[]): Partial<Content> {
  const { needs, gives } = deriveInterface(steps, draft, draft.elsewhere);
  return { steps: steps.map((step) => ({ ...step })), needs: needs.map(toMutable), gives: gives.map(toMutable) };
}

const toMutable = (field: Field) => ({ ...field, choices: field.choices ? [...field.choices] : undefined });

/** Values that became inputs are said in the data rows: in every one, or in a first one. */
function addInputs(rows: Content['rows'], inputs: Readonly<Record<string, string>>): Content['rows'] {
  if (Object.keys(inputs).length === 0) return rows;
  const filled = rows.length > 0 ? rows : [{ name: 'Row 1', values: {} }];
  return filled.map((row) => ({ ...row, values: { ...inputs, ...row.values } }));
}

/** Moves steps together by one place; what stands at an edge stays. */
function moveSteps(steps: readonly Step[], indexes: readonly number[], by: -1 | 1): Step[] {
  const moved = [...steps];
  const sorted = [...indexes].sort((a, b) => (a - b) * -by);
  if (sorted.some((index) => index + by < 0 || index + by >= steps.length)) return moved;
  for (const index of sorted) {
    const [one, other] = [moved[index], moved[index + by]];
    if (one && other) [moved[index], moved[index + by]] = [other, one];
  }
  return moved;
}

/** What is sent: steps without a target are rows that were never filled in. */
export function toSaveTest(draft: TestDraft): SaveTest {
  return { ...toContent(draft), base: draft.base, steps: draft.steps.filter((step) => step.target.trim() !== '') };
}
