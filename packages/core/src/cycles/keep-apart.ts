/**
 * Pieces of work, each for one person, some of which one person must not do both of. It answers who may take a piece so that somebody is
 * left for every other: a colouring of small graphs with lists, found by trying (the pieces of one run; at most MOST_TRIES steps a question,
 * after which it is taken for possible).
 */
export interface Pieces {
  /** By piece: the people who may do it. */
  readonly able: readonly (readonly number[])[];
  /** By piece: those that another person must do. */
  readonly apart: readonly (readonly number[])[];
  /** By piece: who does it already; −1: it is not given yet. */
  readonly given: readonly number[];
}

const MOST_TRIES = 2_000;

export class KeepApart {
  readonly #able: readonly ReadonlySet<number>[];
  readonly #apart: readonly (readonly number[])[];
  readonly #given: number[];
  #tries = 0;

  constructor({ able, apart, given }: Pieces) {
    this.#able = able.map((people) => new Set(people));
    this.#apart = apart.map((others, piece) => [...new Set(others)].filter((other) => other !== piece));
    this.#given = [...given];
  }

  /** Who does a piece; −1: nobody yet. */
  getPerson(piece: number): number {
    return this.#given[piece]!;
  }

  give(piece: number, person: number): void {
    this.#given[piece] = person;
  }

  /** Where nobody can be found for all of them anyway, she may as long as she has none of those that must be another’s. */
  may(piece: number, person: number): boolean {
    const given = this.#given[piece]!;
    if (given >= 0) return given === person;
    if (!this.#able[piece]!.has(person)) return false;
    if (this.#apart[piece]!.length === 0) return true;
    if (this.#isBarred(piece, person)) return false;
    if (this.#leavesSomebody(piece, person)) return true;
    return ![...this.#able[piece]!].some(
      (other) => other !== person && !this.#isBarred(piece, other) && this.#leavesSomebody(piece, other),
    );
  }

  #isBarred(piece: number, person: number): boolean {
    return this.#apart[piece]!.some((other) => this.#given[other] === person);
  }

  /** Whether every piece that is tied to this one still finds somebody once she has it. */
  #leavesSomebody(piece: number, person: number): boolean {
    this.#given[piece] = person;
    this.#tries = 0;
    const isPossible = this.#tryRest(this.#listTied(piece));
    this.#given[piece] = -1;
    return isPossible;
  }

  #listTied(piece: number): number[] {
    const seen = new Set([piece]);
    for (const at of seen) for (const other of this.#apart[at]!) if (this.#given[other] === -1) seen.add(other);
    seen.delete(piece);
    return [...seen];
  }

  #tryRest(left: readonly number[]): boolean {
    const options = left.map((piece) => ({ piece, people: [...this.#able[piece]!].filter((person) => !this.#isBarred(piece, person)) }));
    const isTied = new Set(left);
    const countTied = (piece: number) => this.#apart[piece]!.filter((other) => isTied.has(other)).length;
    // With more people than pieces it is tied to, a piece always finds somebody in the end.
    const hard = options.filter(({ piece, people }) => people.length <= countTied(piece));
    if (hard.length === 0) return true;
    const { piece, people } = hard.reduce((least, next) => (next.people.length < least.people.length ? next : least));
    for (const person of people) {
      this.#tries += 1;
      if (this.#tries > MOST_TRIES) return true;
      this.#given[piece] = person;
      const isPossible = this.#tryRest(left.filter((other) => other !== piece));
      this.#given[piece] = -1;
      if (isPossible) return true;
    }
    return false;
  }
}
