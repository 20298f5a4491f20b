import type { Right } from '@kindred-baton/core/programmes/roles';
import type { z } from 'zod';
import type { Topic } from './events.ts';

/**
 * One thing that can be asked of the server or told to it, stated once: the endpoints, the browser's calls and their types, what a change makes
 * stale, the tests of access and docs/routes.md all follow from it. Paths stand under /api/<programme>; `:name` is a parameter.
 */
export interface Route {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  readonly path: `/${string}`;
  /** How parameters are read; one that is not listed is text. */
  readonly params?: Readonly<Record<string, z.ZodType>>;
  /** A JSON body, or the query of a GET. */
  readonly input?: z.ZodType;
  /** Checked too: a bad answer is our mistake. null: a file or a stream. */
  readonly output: z.ZodType | null;
  /** A form with a file comes in. */
  readonly takes?: 'file';
  readonly right: Right;
  /** Who asks it besides people: runners with their tokens too, or these alone; whoever has a person's address for data; or whoever has the link to a board. Left out: people alone. */
  readonly for?: 'runners too' | 'runners' | 'addresses too' | 'observers too';
  /** Of a GET: after which changes it is asked again. Of any other: what it changes. */
  readonly topics: readonly Topic[];
}

/** A noun's routes, each kept as precisely as it is written. */
export const defineRoutes = <const Routes extends Readonly<Record<string, Route>>>(routes: Routes): Routes => routes;

type NamesIn<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? Name | NamesIn<`/${Rest}`>
  : Path extends `${string}:${infer Name}`
    ? Name
    : never;

/** What a path's parameters are once they are read. */
export type ParamsOf<R extends Route> = {
  readonly [Name in NamesIn<R['path']>]: R extends { readonly params: Readonly<Record<Name, infer Schema extends z.ZodType>> }
    ? z.output<Schema>
    : string;
};

/** What comes in, once it is read. */
export type InputOf<R extends Route> = R extends { readonly input: infer Schema extends z.ZodType } ? z.output<Schema> : undefined;

/** The same, and nobody changes it on the way. */
type Kept<Value> = Value extends readonly (infer Item)[]
  ? readonly Kept<Item>[]
  : Value extends object
    ? { readonly [Name in keyof Value]: Kept<Value[Name]> }
    : Value;

/** What a caller gives: of a GET, texts of a query. */
export type GivenOf<R extends Route> = R extends { readonly input: infer Schema extends z.ZodType }
  ? R['method'] extends 'GET'
    ? { readonly [Name in keyof z.output<Schema>]?: string | number | undefined }
    : Kept<z.input<Schema>>
  : undefined;

export type OutputOf<R extends Route> = R extends { readonly output: infer Schema extends z.ZodType } ? z.output<Schema> : never;
