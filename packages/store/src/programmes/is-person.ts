import { sql } from 'drizzle-orm';
import { members } from '../schema/programmes.ts';
import { pools } from '../schema/runners.ts';

/** Members who are people: pools of runners are members too, and have turns, and nothing else that people have. */
export const isPerson = sql`not exists (select from ${pools} where ${pools.id} = ${members.personId})`;
