import { and, eq } from 'drizzle-orm';
import { sql } from 'drizzle-orm';
import { runs } from '../schema/cycles.ts';

/** A run that a late cycle can do without: of low priority, and nobody has begun it. */
export const isSparable = sql`(${and(eq(runs.priority, 'low'), eq(runs.outcome, 'not run'))})`;
