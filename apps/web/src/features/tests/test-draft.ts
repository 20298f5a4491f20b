import type { SaveTest, TestDetail } from '@kindred-baton/contracts/tests/test';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import type { Step } from '@kindred-baton/core/tests/step';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { Field } from '@kindred-baton/core/values/field';

type Content = Pick<SaveTest, 'name' | 'minutes' | 'steps' | 'needs' | 'gives' | 'rows'>;

export interface TestDraft extends Content {
  readonly base: SaveTest['base'];
  readonly isChanged: boolean;
}

export type DraftEvent =
  | { readonly kind: 'name'; readonly name: string }
  | { readonly kind: 'minutes'; readonly minutes: number }
  | { readonly kind: 'step'; readonly index: number; readonly change: Partial<Step> }
  | { readonly kind: 'insert'; readonly index: number; readonly steps: readonly Step[] }
  | { readonly kind: 'remove'; readonly index: number }
  | { readonly kind: 'move'; readonly index: number; readonly by: -1 | 1 }
  | { readonly kind: 'steps'; readonly steps: readonly Step[] }
  | { readonly kind: 'field'; readonly field: Field }
  | { readonly kind: 'rows'; readonly rows: Content['rows'] }
  | { readonly kind: 'saved'; readonly base: SaveTest['base'] }
  | { readonly kind: 'rebase'; readonly base: SaveTest['base'] };

export const EMPTY_STEP: Step = { do: 'fill', target: '' };

export function createDraft({ name, minutes, version }: Pick<TestDetail, 'name' | 'minutes' | 'version'>): TestDraft {
  const { number, revision, steps, needs, gives, rows } = version;
  return { name, minutes, steps, needs, gives, rows, base: { number, revision }, isChanged: false };
}

/** An edit of a test; needs and gives follow the steps, with the types that were confirmed. */
export function reduceDraft(draft: TestDraft, event: DraftEvent): TestDraft {
  switch (event.kind) {
    case 'name':
      return { ...draft, name: event.name, isChanged: true };
    case 'minutes':
      return { ...draft, minutes: event.minutes, isChanged: true };
    case 'step':
      return withSteps(
        draft,
        draft.steps.map((step, index) => (index === event.index ? { ...step, ...event.change } : step)),
      );
    case 'insert':
      return withSteps(draft, [...draft.steps.slice(0, event.index), ...event.steps, ...draft.steps.slice(event.index)]);
    case 'remove':
      return withSteps(
        draft,
        draft.steps.filter((_, index) => index !== event.index),
      );
    case 'move':
      return withSteps(draft, swap(draft.steps, event.index, event.index + event.by));
    case 'steps':
      return withSteps(draft, event.steps);
    case 'field':
      return { ...draft, needs: draft.needs.map(confirm(event.field)), gives: draft.gives.map(confirm(event.field)), isChanged: true };
    case 'rows':
      return { ...draft, rows: event.rows, isChanged: true };
    case 'saved':
      return { ...draft, base: event.base, isChanged: false };
    case 'rebase':
      return { ...draft, base: event.base };
  }
}

/** A value that is both needed and given has one type. */
const confirm = (field: Field) => (old: Content['needs'][number]) =>
  toNameKey(old.name) === toNameKey(field.name) ? toMutable({ ...field, name: old.name }) : old;

function withSteps(draft: TestDraft, steps: readonly Step[]): TestDraft {
  const { needs, gives } = deriveInterface(steps, draft);
  return { ...draft, steps: steps.map((step) => ({ ...step })), needs: needs.map(toMutable), gives: gives.map(toMutable), isChanged: true };
}

const toMutable = (field: Field) => ({ ...field, choices: field.choices ? [...field.choices] : undefined });

function swap<T>(list: readonly T[], a: number, b: number): T[] {
  const swapped = [...list];
  const [first, second] = [list[a], list[b]];
  if (first !== undefined && second !== undefined) [swapped[a], swapped[b]] = [second, first];
  return swapped;
}

/** What is sent: steps without a target are rows that were never filled in. */
export function toSaveTest({ isChanged: _, ...draft }: TestDraft): SaveTest {
  return { ...draft, steps: draft.steps.filter((step) => step.target.trim() !== '') };
}
