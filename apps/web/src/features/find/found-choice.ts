import type { FoundItem } from '@kindred-baton/contracts/find/find';

export interface FindState {
  /** What is listed. */
  readonly found: readonly FoundItem[];
  /** The path of the item that was walked to by arrows, if any. */
  readonly walkedTo: string | null;
  /** Whether the list answers earlier words than those in the field. */
  readonly isStale: boolean;
}

/** The place of the item that Enter opens: the one walked to, while it is listed, else the first. */
export const placeOfChoice = ({ found, walkedTo }: Pick<FindState, 'found' | 'walkedTo'>): number =>
  Math.max(
    0,
    found.findIndex(({ path }) => path === walkedTo),
  );

/** The item one place on or back; at an end it stays. */
export const walkFound = (state: Pick<FindState, 'found' | 'walkedTo'>, by: 1 | -1): string | null =>
  state.found[Math.min(Math.max(0, placeOfChoice(state) + by), state.found.length - 1)]?.path ?? null;

/**
 * What Enter opens. What was walked to is meant as it is seen; but the first of a list that answers earlier words is
 * not what the words in the field name, so Enter waits for their own answer.
 */
export const chooseFound = (state: FindState): FoundItem | 'wait' | null => {
  const item = state.found[placeOfChoice(state)] ?? null;
  if (state.isStale && (item === null || item.path !== state.walkedTo)) return 'wait';
  return item;
};
