import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('../../', import.meta.url)).replace(/\/$/, '');
export const WEB = path.join(ROOT, 'apps/web');

/** Where the private database lives; another folder by KINDRED_BATON_DATA. */
export const DATA = path.resolve(process.env.KINDRED_BATON_DATA ?? path.join(ROOT, '.data'));
