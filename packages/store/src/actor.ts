import { and, eq, isNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { SeverityNames } from '@kindred-baton/core/defects/defect';
import type { BoardId, PersonId, ProgrammeId, RunnerId } from '@kindred-baton/core/ids';
import type { Right, Role } from '@kindred-baton/core/programmes/roles';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import type { Store } from './database.ts';
import { members, programmes } from './schema/programmes.ts';

/** Who acts, in which programme, and what that person may do there. Every operation takes one. */
export interface Actor {
  readonly programmeId: ProgrammeId;
  readonly programmeKey: string;
  readonly programmeName: string;
  readonly timeZone: string;
  readonly severityNames: SeverityNames;
  readonly personId: PersonId;
  readonly roles: readonly Role[];
  /** The machine that acts for a pool; undefined: a person acts. */
  readonly runnerId?: RunnerId | undefined;
  /** The one board that is looked at by a link, in the name of who made it; undefined: somebody is signed in. */
  readonly shownBoardId?: BoardId | undefined;
}

/** The actor for a signed-in person in a programme. A programme that she does not belong to is *not found*, not *forbidden*. */
export async function getActor(store: Store, personId: PersonId, programmeKey: string): Promise<Actor> {
  const [row] = await store.db

    .select({
      programmeId: programmes.id,
      programmeName: programmes.name,
      timeZone: programmes.timeZone,
      severityNames: programmes.severityNames,
      roles: members.roles,
    })
    .from(programmes)
    .innerJoin(members, and(eq(members.programmeId, programmes.id), eq(members.personId, personId), isNull(members.leftAt)))
    .where(eq(programmes.key, programmeKey));
  if (!row) throw new AppError('not found', `There is no programme “${programmeKey}” that you belong to.`);
  return { ...row, programmeKey, personId };
}

export function requireRight(actor: Actor, right: Right): void {
  if (hasRight(actor.roles, right)) return;
  throw new AppError('forbidden', `Your role (${actor.roles.join(', ')}) does not allow you to ${right}. Ask the programme's lead.`);
}
