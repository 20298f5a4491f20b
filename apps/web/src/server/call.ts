import type { InputOf, OutputOf, ParamsOf, Route } from '@kindred-baton/contracts/route';
import type { Actor } from '@kindred-baton/store/actor';
import type { Operation, Query } from '@kindred-baton/store/operation';

/** Asks the store in somebody's name. */
export type Asker = <Given, Output>(query: Query<Given, Output>, input: Given) => Promise<Output>;

/** A request as it is answered: parsed, in the actor's name. */
export interface Call<Params = object, Input = undefined> {
  readonly actor: Actor;
  readonly params: Params;
  readonly input: Input;
  readonly request: Request;
  readonly url: URL;
  readonly ask: Asker;
  readonly perform: <Given, Output>(operation: Operation<Given, Output>, input: Given) => Promise<Output>;
}

/** How one route is answered: with what goes out, or with a file. */
type Answer<R extends Route> = (
  call: Call<ParamsOf<R>, InputOf<R>>,
) => Promise<R extends { readonly output: null } ? Response : OutputOf<R>>;

/** An answer for each route of a noun; one that is missing does not compile. */
export type Answers<Routes extends Readonly<Record<string, Route>>> = { readonly [Name in keyof Routes]: Answer<Routes[Name]> };
