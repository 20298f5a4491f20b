import type { Route } from '@kindred-baton/contracts/route';

type Table = Readonly<Record<string, Route>>;

/** What the browser needs of the routes: method, path and topics. */
export function printClientRoutes(routes: Table): string {
  const lines = Object.entries(routes).map(([name, { method, path, topics }]) => {
    const list = topics.length === 0 ? '[]' : `['${topics.join("', '")}']`;
    return `  ${name}: ['${method}', '${path}', ${list}],`;
  });
  return `/** Written by \`npm run routes\` from contracts/routes.ts; not by hand. */
import type { Topic } from '@kindred-baton/contracts/events';
import type { Route } from '@kindred-baton/contracts/route';
import type { RouteName } from '@kindred-baton/contracts/routes';

// prettier-ignore
export const CLIENT_ROUTES: Readonly<Record<RouteName, readonly [Route['method'], string, readonly Topic[]]>> = {
${lines.join('\n')}
};
`;
}

/** The routes as a page of the docs. */
export function printRouteList(routes: Table): string {
  const rows = Object.entries(routes).map(([name, { method, path, right, topics, takes, output }]) => {
    const what = output === null ? 'a file' : takes === 'file' ? 'takes a file' : '';
    return `| \`${method} ${path}\` | ${name} | ${right} | ${topics.join(', ')} | ${what} |`;
  });
  return `# Routes

Under \`/api/<programme>\`. Written by \`npm run routes\` from \`packages/contracts/src/routes.ts\`. Topics: of a GET, after which changes it is asked
again; of any other, what it changes.

| address | name | right | topics | |
| --- | --- | --- | --- | --- |
${rows.join('\n')}
`;
}
