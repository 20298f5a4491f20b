import { and, asc, eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonaView, SavePersona } from '@kindred-baton/contracts/personas/persona';
import type { ApplicationId, EnvironmentId, PersonaId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import { createId } from '../ids.ts';
import type { Context, Operation, Query } from '../operation.ts';
import { personas, personaStarts } from '../schema/personas.ts';
import { applications, environments } from '../schema/programmes.ts';
import type { Seal } from '../secrets.ts';
import { toDifference } from '../to-difference.ts';

/** Who steps are done as, and how each starts an application in an environment. Two queries. */
export const listPersonas: Query<void, { personas: PersonaView[] }> = {
  right: 'read',
  read: async ({ db, actor }) => {
    const rows = await db.select().from(personas).where(eq(personas.programmeId, actor.programmeId)).orderBy(asc(personas.name));
    const starts =
      rows.length === 0
        ? []
        : await db
            .select()
            .from(personaStarts)
            .where(
              inArray(
                personaStarts.personaId,
                rows.map(({ id }) => id),
              ),
            );
    const startsOf = new Map<PersonaId, PersonaView['starts']>();
    for (const { personaId, secret, programmeId: _, ...start } of starts)
      pushTo(startsOf, personaId, { ...start, hasPassword: secret !== null });
    return { personas: rows.map(({ id, name, description }) => ({ id, name, description, starts: startsOf.get(id) ?? [] })) };
  },
};

/** What a secret of a persona's start is bound to: it opens nowhere else. */
export const nameSecretPlace = (start: {
  readonly personaId: PersonaId;
  readonly applicationId: ApplicationId;
  readonly environmentId: EnvironmentId;
}): string => `${start.personaId} ${start.applicationId} ${start.environmentId}`;

/** Adds a persona, or changes one; its starts are those that are given. */
export const savePersona: Operation<{ id: PersonaId | null; save: SavePersona; seal: Seal }, { id: PersonaId }> = {
  right: 'edit tests',
  run: async (context, { id, save: { name, description, starts }, seal }) => {
    const { db, actor } = context;
    const known = id === null ? null : await requirePersona(context, id);
    await requireOwnPlaces(context, starts);
    const kept = known?.id ?? createId<'persona'>();
    if (known) await db.update(personas).set({ name, description }).where(eq(personas.id, kept));
    else await db.insert(personas).values({ id: kept, programmeId: actor.programmeId, name, description });
    const was = await db.delete(personaStarts).where(eq(personaStarts.personaId, kept)).returning();
    const secretOf = new Map(was.map((start) => [nameSecretPlace(start), start.secret]));
    const rows = starts.map(({ password, ...start }) => {
      const place = nameSecretPlace({ personaId: kept, ...start });
      const secret = password === undefined ? (secretOf.get(place) ?? null) : password === '' ? null : seal(password, place);
      return { personaId: kept, ...start, secret };
    });
    await takeUsual(context, rows);
    if (rows.length > 0) await db.insert(personaStarts).values(rows);
    await context.record({
      subject: 'persona',
      subjectId: kept,
      action: known ? 'changed' : 'added',
      details: toDifference({ ...known, starts: was.length }, { name, description, starts: starts.length }),
    });
    return { id: kept };
  },
};

/** One persona is the usual one of an application in an environment: who was it before is it no more. */
async function takeUsual({ db }: Context, rows: readonly (typeof personaStarts.$inferInsert)[]): Promise<void> {
  for (const { applicationId, environmentId, isUsual } of rows)
    if (isUsual)
      await db
        .update(personaStarts)
        .set({ isUsual: false })
        .where(and(eq(personaStarts.applicationId, applicationId), eq(personaStarts.environmentId, environmentId)));
}

/** Takes a persona out. Steps that name it keep the name. */
export const removePersona: Operation<{ id: PersonaId }, { done: true }> = {
  right: 'edit tests',
  run: async (context, { id }) => {
    const known = await requirePersona(context, id);
    await context.db.delete(personas).where(eq(personas.id, known.id));
    await context.record({ subject: 'persona', subjectId: id, action: 'removed', details: { name: known.name } });
    return { done: true };
  },
};

async function requirePersona({ db, actor }: Context, id: PersonaId) {
  const [known] = await db
    .select()
    .from(personas)
    .where(and(eq(personas.id, id), eq(personas.programmeId, actor.programmeId)))
    .for('update');
  if (!known) throw new AppError('not found', 'There is no such persona.');
  return known;
}

/** Refuses applications and environments of another programme. */
async function requireOwnPlaces({ db, actor }: Context, starts: SavePersona['starts']): Promise<void> {
  const count = async (table: typeof applications | typeof environments, ids: readonly string[]) => {
    const wanted = [...new Set(ids)];
    if (wanted.length === 0) return true;
    const rows = await db
      .select({ id: table.id })
      .from(table as typeof applications)
      .where(and(inArray(table.id, wanted as never[]), eq(table.programmeId, actor.programmeId)));
    return rows.length === wanted.length;
  };
  const isOwn = await Promise.all([
    count(
      applications,
      starts.map(({ applicationId }) => applicationId),
    ),
    count(
      environments,
      starts.map(({ environmentId }) => environmentId),
    ),
  ]);
  if (isOwn.includes(false)) throw new AppError('invalid', 'This programme has no such application or environment.');
}
