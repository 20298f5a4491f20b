import type { GivenOf, OutputOf, ParamsOf } from '@kindred-baton/contracts/route';
import type { RouteName, Routes } from '@kindred-baton/contracts/routes';
import { getJson, sendForm, sendJson } from './request.ts';
import { CLIENT_ROUTES } from './routes.generated.ts';

type ParamNames<Name extends RouteName> = keyof ParamsOf<Routes[Name]>;

/** What a route is called with: its parameters, and its body or query; a form where it takes a file. */
export type Given<Name extends RouteName> = ([ParamNames<Name>] extends [never]
  ? { readonly params?: undefined }
  : { readonly params: { readonly [Param in ParamNames<Name>]: string | number } }) &
  (Routes[Name] extends { readonly takes: 'file' }
    ? { readonly form: FormData }
    : GivenOf<Routes[Name]> extends undefined
      ? { readonly input?: undefined }
      : { readonly input: GivenOf<Routes[Name]> });

export type Output<Name extends RouteName> = OutputOf<Routes[Name]>;

/** The fields of a form as a route's input: whether they are complete, and what is wrong with which, the server says. */
export const fromForm = <Input>(values: object): NonNullable<Input> => values as NonNullable<Input>;

interface AnyGiven {
  readonly params?: Readonly<Record<string, string | number>> | undefined;
  readonly input?: unknown;
  readonly form?: FormData;
}

/** The address of a route, with its parameters and, of a GET, its query. */
export function toAddress<Name extends RouteName>(api: string, name: Name, given: Given<Name>): string {
  const { params = {}, input } = given as AnyGiven;
  const [method, path] = CLIENT_ROUTES[name];
  const filled = path.replace(/:(\w+)/g, (_, param: string) => encodeURIComponent(String(params[param] ?? '')));
  const query = method === 'GET' ? toQuery(input) : '';
  return `${api}${filled}${query}`;
}

function toQuery(input: unknown): string {
  const entries = Object.entries(input ?? {}).flatMap(([name, value]) => (value === undefined ? [] : [[name, String(value)]]));
  return entries.length === 0 ? '' : `?${new URLSearchParams(entries).toString()}`;
}

/** Calls a route. Rejects with the server's refusal, or when it is away; a read that is given up by `signal` stops at the server too. */
export async function call<Name extends RouteName>(
  api: string,
  name: Name,
  given: Given<Name>,
  signal?: AbortSignal,
): Promise<Output<Name>> {
  const { input, form } = given as AnyGiven;
  const [method] = CLIENT_ROUTES[name];
  const address = toAddress(api, name, given);
  if (form) return sendForm(address, form);
  return method === 'GET' ? getJson(address, signal) : sendJson(method, address, input);
}
