/** What takes edits back; known once the server has made them, null when it refused them. */
export type Back<Edit> = Promise<readonly Edit[] | null>;

export interface Stacks<Edit> {
  readonly undos: readonly Back<Edit>[];
  readonly redos: readonly Back<Edit>[];
}
export const EMPTY_STACKS: Stacks<never> = { undos: [], redos: [] };

const MOST_REMEMBERED = 100;

/** An edit was made: it can be taken back; what had been taken back cannot be made again any more. */
export function remember<Edit>({ undos }: Stacks<Edit>, back: Back<Edit>): Stacks<Edit> {
  return { undos: [...undos.slice(1 - MOST_REMEMBERED), back], redos: [] };
}

/** An edit was refused: there is nothing to take back. */
export function forget<Edit>({ undos, redos }: Stacks<Edit>, back: Back<Edit>): Stacks<Edit> {
  return { undos: undos.filter((each) => each !== back), redos };
}

/** The last of one stack is taken back; what takes that back again goes on the other. */
export function turnBack<Edit>(stacks: Stacks<Edit>, from: 'undos' | 'redos', takeBack: (back: Back<Edit>) => Back<Edit>): Stacks<Edit> {
  const back = stacks[from].at(-1);
  if (!back) return stacks;
  const to = from === 'undos' ? 'redos' : 'undos';
  return { ...stacks, [from]: stacks[from].slice(0, -1), [to]: [...stacks[to], takeBack(back)] };
}
