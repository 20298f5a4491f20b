import { eq } from 'drizzle-orm';
import type { TeamId } from '@kindred-baton/core/ids';
import type { ReadContext } from '../operation.ts';
import { teams } from '../schema/programmes.ts';

export async function loadTeamNames({ db, actor }: Pick<ReadContext, 'db' | 'actor'>): Promise<Map<TeamId, string>> {
  const rows = await db.select({ id: teams.id, name: teams.name }).from(teams).where(eq(teams.programmeId, actor.programmeId));
  return new Map(rows.map(({ id, name }) => [id, name]));
}
