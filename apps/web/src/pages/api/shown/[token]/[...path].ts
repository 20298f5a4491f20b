import { serveShown } from '../../../../server/serve.ts';

export const GET = serveShown;
