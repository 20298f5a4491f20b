/**
 * npm run routes: from the table of routes what the browser needs of it, without its schemas (Zod stays on the server), and docs/routes.md. A test
 * holds both to the table.
 */
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { ROUTES } from '@kindred-baton/contracts/routes';
import { printClientRoutes, printRouteList } from '../src/server/print-routes.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
writeFileSync(here('../src/client/routes.generated.ts'), printClientRoutes(ROUTES));
writeFileSync(here('../../../docs/routes.md'), printRouteList(ROUTES));
