import type { APIRoute } from 'astro';
import { getStore } from '../../server/store.ts';

/** 200 once the database answers, 503 while it does not. */
export const GET: APIRoute = async () => {
  const isReady = await getStore()
    .pool.query('select 1')
    .then(
      () => true,
      () => false,
    );
  return Response.json({ isReady }, { status: isReady ? 200 : 503 });
};
