import { createHash, randomBytes } from 'node:crypto';
import { and, eq, inArray, isNull, max, ne, or, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Invite, SavePerson } from '@kindred-baton/contracts/programmes/programme';
import type { AttemptId, InvitationId, PersonId, TeamId } from '@kindred-baton/core/ids';
import type { Store } from '../database.ts';
import { translateDriverError } from '../driver-errors.ts';
import { createId } from '../ids.ts';
import { SITE } from '../mails/write-mails.ts';
import type { Context, Operation } from '../operation.ts';
import { enterProgramme } from '../operation.ts';
import { boardLinks } from '../schema/boards.ts';
import { dataAddresses } from '../schema/data-addresses.ts';
import { cycles } from '../schema/cycles.ts';
import { history } from '../schema/history.ts';
import { mails } from '../schema/mails.ts';
import { accounts, people } from '../schema/people.ts';
import { absences, invitations, members, programmes, teamMembers, teams } from '../schema/programmes.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { requireOwn } from './require-own.ts';
import { toDifference } from '../to-difference.ts';

/** Roles, teams, hours and absences of somebody. A programme always keeps somebody who can set it up. */
export const savePerson: Operation<{ personId: PersonId; person: SavePerson }, { done: true }> = {
  right: 'set up the programme',
  run: async (context, { personId, person }) => {
    const { db, actor } = context;
    const here = actor.programmeId;
    await requireOwn(context, { ownerId: personId });
    await requireTeams(
      context,
      person.teams.map(({ id }) => id),
    );
    await lockPeople(context);
    const before = await loadPerson(context, personId);
    await db
      .update(members)
      .set({ roles: [...new Set(person.roles)] })
      .where(and(eq(members.programmeId, here), eq(members.personId, personId)));
    await requireSomebody(context);
    await setTeams(context, personId, person.teams);
    await db.delete(absences).where(and(eq(absences.programmeId, here), eq(absences.personId, personId)));
    if (person.absences.length > 0)
      await db.insert(absences).values(person.absences.map((absence) => ({ programmeId: here, personId, ...absence })));
    await context.record({ subject: 'programme', subjectId: personId, action: 'person changed', details: toDifference(before, person) });
    return { done: true };
  },
};

/** What is kept of somebody, in the shape in which it is saved. */
async function loadPerson({ db, actor }: Context, personId: PersonId): Promise<SavePerson> {
  const here = actor.programmeId;
  const [[member], own, away] = await Promise.all([
    db
      .select({ roles: members.roles })
      .from(members)
      .where(and(eq(members.programmeId, here), eq(members.personId, personId))),
    db
      .select({ id: teamMembers.teamId, hoursPerDay: teamMembers.hoursPerDay })
      .from(teamMembers)
      .innerJoin(teams, and(eq(teams.id, teamMembers.teamId), eq(teams.programmeId, here)))
      .where(eq(teamMembers.personId, personId))
      .orderBy(teams.position),
    db
      .select({ firstDay: absences.firstDay, lastDay: absences.lastDay, note: absences.note })
      .from(absences)
      .where(and(eq(absences.programmeId, here), eq(absences.personId, personId)))
      .orderBy(absences.firstDay),
  ]);
  return { roles: member?.roles ?? [], teams: own, absences: away };
}

async function requireTeams({ db, actor }: Context, ids: readonly TeamId[]): Promise<void> {
  if (ids.length === 0) return;
  const rows = await db
    .select({ id: teams.id })
    .from(teams)
    .where(and(eq(teams.programmeId, actor.programmeId), inArray(teams.id, [...ids])));
  if (rows.length < new Set(ids).size) throw new AppError('invalid', 'This programme has no such team.');
}

/** Two who give up their roles at once do so one after the other, so that the second sees what the first did. */
async function lockPeople({ db, actor }: Context): Promise<void> {
  await db.select({ id: programmes.id }).from(programmes).where(eq(programmes.id, actor.programmeId)).for('update');
}

async function requireSomebody({ db, actor }: Context): Promise<void> {
  const rows = await db
    .select({ id: members.personId })
    .from(members)
    .where(
      and(eq(members.programmeId, actor.programmeId), isNull(members.leftAt), sql`${members.roles} && array['lead', 'administrator']`),
    );
  if (rows.length === 0)
    throw new AppError('conflict', 'Somebody must stay who can set the programme up. Give that role to another person first.');
}

async function setTeams(
  { db, actor }: Context,
  personId: PersonId,
  own: readonly { readonly id: TeamId; readonly hoursPerDay: number | null }[],
): Promise<void> {
  const here = db.select({ id: teams.id }).from(teams).where(eq(teams.programmeId, actor.programmeId));
  await db.delete(teamMembers).where(and(eq(teamMembers.personId, personId), inArray(teamMembers.teamId, here)));
  if (own.length > 0) await db.insert(teamMembers).values(own.map(({ id, hoursPerDay }) => ({ teamId: id, personId, hoursPerDay })));
}

const hash = (token: string) => createHash('sha256').update(token).digest('hex');
const TOKEN_BYTES = 24;

/** Asks people to come, one or a list. Who has an account already is a member at once; the others get a letter with a link of their own. */
export const invitePeople: Operation<Invite, { invited: number; added: number; known: string[] }> = {
  right: 'set up the programme',
  run: async (context, { people: wanted }) => {
    const { db, actor } = context;
    await requireTeams(
      context,
      wanted.flatMap(({ teamIds }) => teamIds),
    );
    const emails = [...new Set(wanted.map(({ email }) => email))];
    if (emails.length < wanted.length)
      throw new AppError(
        'invalid',
        `A mail address stands there twice: ${emails.find((email) => wanted.filter((one) => one.email === email).length > 1)}.`,
      );
    const existing = await db
      .select({ id: people.id, email: people.email, programmeId: members.programmeId, leftAt: members.leftAt })
      .from(people)
      .leftJoin(members, and(eq(members.personId, people.id), eq(members.programmeId, actor.programmeId)))
      .where(inArray(people.email, emails));
    const accountOf = new Map(existing.map((person) => [person.email, person]));
    const known = existing.filter(({ programmeId, leftAt }) => programmeId !== null && leftAt === null).map(({ email }) => email);
    let [invited, added] = [0, 0];
    for (const person of wanted.filter(({ email }) => !known.includes(email))) {
      const account = accountOf.get(person.email);
      if (account) {
        await addMember(context, account.id, person);
        added += 1;
      } else {
        await sendInvitation(context, person);
        invited += 1;
      }
    }
    await context.record({
      subject: 'programme',
      subjectId: actor.programmeId,
      action: 'people invited',
      details: { people: wanted.map(({ name, email }) => `${name} <${email}>`) },
    });
    return { invited, added, known };
  },
};

type Wanted = Invite['people'][number];

async function addMember(context: Context, personId: PersonId, { roles, teamIds }: Wanted): Promise<void> {
  const { db, actor } = context;
  await db
    .insert(members)
    .values({ programmeId: actor.programmeId, personId, roles })
    .onConflictDoUpdate({ target: [members.programmeId, members.personId], set: { roles, leftAt: null } });
  await setTeams(
    context,
    personId,
    teamIds.map((id) => ({ id, hoursPerDay: null })),
  );
}

async function sendInvitation({ db, actor, now }: Context, { name, email, roles, teamIds }: Wanted): Promise<void> {
  const token = randomBytes(TOKEN_BYTES).toString('base64url');
  const row = {
    name,
    roles,
    teamIds: [...teamIds] as string[],
    tokenHash: hash(token),
    invitedBy: actor.personId,
    invitedAt: now,
    acceptedAt: null,
  };
  await db
    .insert(invitations)
    .values({ id: createId<'invitation'>(), programmeId: actor.programmeId, email, ...row })
    .onConflictDoUpdate({ target: [invitations.programmeId, invitations.email], set: row });
  await db.insert(mails).values({
    ...{ id: createId<'mail'>(), programmeId: actor.programmeId, to: email, toName: name, createdAt: now, nextTryAt: now },
    subject: `${actor.programmeName} asks you to test with it`,
    text: `Dear ${name},\n\nyou are asked to take part in ${actor.programmeName}: to try out the new applications and to say how it went. You need no course for it.\n\nChoose a password here, and you are in:\n${SITE}/invitation/${token}\n\nKindred Baton`,
  });
}

/** Takes an invitation back that nobody has accepted. */
export const revokeInvitation: Operation<InvitationId, { done: true }> = {
  right: 'set up the programme',
  run: async (context, id) => {
    const rows = await context.db
      .delete(invitations)
      .where(and(eq(invitations.id, id), eq(invitations.programmeId, context.actor.programmeId), isNull(invitations.acceptedAt)))
      .returning();
    if (!rows[0]) throw new AppError('not found', 'There is no such invitation; perhaps it was accepted meanwhile.');
    await context.record({ subject: 'programme', subjectId: id, action: 'invitation taken back', details: { email: rows[0].email } });
    return { done: true };
  },
};

/** What an invitation's link stands for; undefined: used, taken back or never sent. */
export async function findInvitation(store: Store, token: string) {
  const [found] = await store.db
    .select({ invitation: invitations, programme: programmes.name, key: programmes.key })
    .from(invitations)
    .innerJoin(programmes, eq(programmes.id, invitations.programmeId))
    .where(and(eq(invitations.tokenHash, hash(token)), isNull(invitations.acceptedAt)));
  return found;
}

/** Makes the account of somebody who was invited, and her a member; who has one by now keeps it as it is. */
export async function acceptInvitation(
  store: Store,
  input: { readonly token: string; readonly name: string; readonly passwordHash: string },
): Promise<{ key: string; hadAccount: boolean }> {
  try {
    return await store.db.transaction(async (db) => {
      const now = store.now();
      const [invitation] = await db
        .update(invitations)
        .set({ acceptedAt: now })
        .where(and(eq(invitations.tokenHash, hash(input.token)), isNull(invitations.acceptedAt)))
        .returning();
      if (!invitation) throw new AppError('not found', 'This invitation was used already, or taken back. Ask the lead for another.');
      const [existing] = await db.select({ id: people.id }).from(people).where(eq(people.email, invitation.email));
      const personId = existing?.id ?? createId<'person'>();
      if (!existing) {
        await db
          .insert(people)
          .values({ id: personId, name: input.name, email: invitation.email, emailVerified: true, createdAt: now, updatedAt: now });
        await db.insert(accounts).values({
          id: createId(),
          accountId: personId,
          providerId: 'credential',
          userId: personId,
          password: input.passwordHash,
          createdAt: now,
          updatedAt: now,
        });
      }
      await enterProgramme(db, invitation);
      await db.insert(members).values({ programmeId: invitation.programmeId, personId, roles: invitation.roles }).onConflictDoNothing();
      const own = await db
        .select({ id: teams.id })
        .from(teams)
        .where(
          and(
            eq(teams.programmeId, invitation.programmeId),
            inArray(
              teams.id,
              [...invitation.teamIds, ''].filter((id): id is TeamId => id !== ''),
            ),
          ),
        );
      if (own.length > 0)
        await db
          .insert(teamMembers)
          .values(own.map(({ id }) => ({ teamId: id, personId })))
          .onConflictDoNothing();
      await db.insert(history).values({
        programmeId: invitation.programmeId,
        personId,
        at: now,
        subject: 'programme',
        subjectId: personId,
        action: 'came',
        details: { name: input.name },
      });
      const [programme] = await db.select({ key: programmes.key }).from(programmes).where(eq(programmes.id, invitation.programmeId));
      return { key: programme?.key ?? '', hadAccount: existing !== undefined };
    });
  } catch (error) {
    throw translateDriverError(error);
  }
}

/**
 * Somebody leaves: what she did stays in her name, her turns go to another person or wait for the lead, and an attempt that she had under way
 * ends as blocked, with a note that says why. She no longer gets in.
 */
export const leaveProgramme: Operation<{ personId: PersonId; handTo: PersonId | null }, { handedOver: number; ended: number }> = {
  right: 'set up the programme',
  run: async (context, { personId, handTo }) => {
    const { db, actor, now } = context;
    await requireOwn(context, { ownerId: personId });
    if (handTo === personId) throw new AppError('invalid', 'Choose somebody else to hand the turns to.');
    await requireOwn(context, { ownerId: handTo });
    await lockPeople(context);
    const gone = await db
      .update(members)
      .set({ leftAt: now, feedToken: null })
      .where(and(eq(members.programmeId, actor.programmeId), eq(members.personId, personId), isNull(members.leftAt)))
      .returning({ id: members.personId });
    if (gone.length === 0) throw new AppError('conflict', 'She has left already.');
    await db.delete(dataAddresses).where(and(eq(dataAddresses.programmeId, actor.programmeId), eq(dataAddresses.personId, personId)));
    await db.delete(boardLinks).where(and(eq(boardLinks.programmeId, actor.programmeId), eq(boardLinks.personId, personId)));
    await requireSomebody(context);
    const { handedOver, ended } = await handOver(context, personId, handTo);
    await setTeams(context, personId, []);
    await context.record({
      subject: 'programme',
      subjectId: personId,
      action: 'left',
      details: { handedTo: handTo, turns: handedOver, ended },
    });
    return { handedOver, ended };
  },
};

/** Her turns go on through the door; what she recorded in an attempt that ends with her stays, with a line that says why it ended. */
async function handOver(context: Context, personId: PersonId, handTo: PersonId | null): Promise<{ handedOver: number; ended: number }> {
  const { db, actor } = context;
  const live = db
    .select({ id: cycles.id })
    .from(cycles)
    .where(and(eq(cycles.programmeId, actor.programmeId), ne(cycles.state, 'closed')));
  const open = db
    .select({ id: attempts.turnId })
    .from(attempts)
    .where(and(eq(attempts.personId, personId), isNull(attempts.finishedAt)));
  const hers = await db
    .select({ id: turns.id })
    .from(turns)
    .where(and(inArray(turns.cycleId, live), or(eq(turns.assigneeId, personId), inArray(turns.id, open))));
  if (hers.length === 0) return { handedOver: 0, ended: 0 };
  const { before, effects } = await changeRuns(context, {
    scope: { turns: hers.map(({ id }) => id) },
    event: { kind: 'leave', personId, handTo },
  });
  const ended = before.runs.flatMap((run) => run.turns.flatMap(({ open: own }) => (own?.personId === personId ? [own.id] : [])));
  await noteLeaving(context, ended);
  return { handedOver: effects.filter((effect) => effect.kind === 'history' && effect.action === 'passed on').length, ended: ended.length };
}

async function noteLeaving({ db, actor, now }: Context, ended: readonly AttemptId[]): Promise<void> {
  if (ended.length === 0) return;
  const done = await db
    .select({ id: stepResults.attemptId, last: max(stepResults.stepIndex) })
    .from(stepResults)
    .where(inArray(stepResults.attemptId, [...ended]))
    .groupBy(stepResults.attemptId);
  const lastOf = new Map(done.map(({ id, last }) => [id, last ?? -1]));
  await db.insert(stepResults).values(
    ended.map((attemptId) => ({
      byId: actor.personId,
      ...{ attemptId, stepIndex: (lastOf.get(attemptId) ?? -1) + 1, outcome: 'blocked' as const, recordedAt: now, wordId: createId() },
      note: 'Whoever made this attempt has left the programme before it was finished.',
    })),
  );
}
