import type { APIRoute } from 'astro';
import { getAuth } from '../../../server/auth.ts';

export const ALL: APIRoute = ({ request }) => getAuth().handler(request);
