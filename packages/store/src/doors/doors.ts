import { and, asc, eq } from 'drizzle-orm';
import type { DoorView, SaveDoor } from '@kindred-baton/contracts/doors/door';
import { AppError } from '@kindred-baton/contracts/errors';
import type { DoorId } from '@kindred-baton/core/ids';
import { createId } from '../ids.ts';
import type { Context, Operation, Query } from '../operation.ts';
import { doors } from '../schema/doors.ts';
import { applications, environments } from '../schema/programmes.ts';
import type { Seal } from '../secrets.ts';
import { toDifference } from '../to-difference.ts';
import type { SealedDoor } from './sealed-door.ts';
import { toSealedDoor } from './sealed-door.ts';

/** Every door, with what it is and where; of its secret only that there is one. One query. */
export const listDoors: Query<void, { doors: DoorView[] }> = {
  right: 'read',
  read: async ({ db, actor }) => {
    const rows = await db.select().from(doors).where(eq(doors.programmeId, actor.programmeId)).orderBy(asc(doors.name), asc(doors.id));
    return { doors: rows.map(({ secret, programmeId: _, ...door }) => ({ ...door, hasSecret: secret !== null })) };
  },
};

/** Adds a door, or changes one. A secret that is left out stays as it is. */
export const saveDoor: Operation<{ id: DoorId | null; save: SaveDoor; seal: Seal }, { id: DoorId }> = {
  right: 'set up the programme',
  run: async (context, { id, save: { secret: plain, ...save }, seal }) => {
    const { db, actor } = context;
    const known = id === null ? null : await requireDoor(context, id);
    await requireOwnPlace(context, save);
    const kept = known?.id ?? createId<'door'>();
    // What was sealed for one address is not sent to another.
    const stays = known && known.address === save.address && known.kind === save.kind ? known.secret : null;
    const secret = plain === undefined ? stays : plain === '' ? null : seal(plain, kept);
    const row = { ...save, secret };
    const taken = await db
      .select({ id: doors.id })
      .from(doors)
      .where(and(eq(doors.environmentId, save.environmentId), eq(doors.name, save.name)));
    if (taken.some((other) => other.id !== kept))
      throw new AppError('conflict', `This environment has a door “${save.name}” already.`, {
        details: { problems: [{ path: 'name', message: `This environment has a door “${save.name}” already.` }] },
      });
    if (known) await db.update(doors).set(row).where(eq(doors.id, kept));
    else await db.insert(doors).values({ id: kept, programmeId: actor.programmeId, ...row });
    const action = known ? 'door changed' : 'door added';
    const before = known ? { name: known.name, address: known.address, hasSecret: known.secret !== null } : {};
    const details = toDifference(before, { name: save.name, address: save.address, hasSecret: secret !== null });
    await context.record({ subject: 'programme', subjectId: kept, action, details });
    return { id: kept };
  },
};

/** Takes a door away. Steps that name it keep the name. */
export const removeDoor: Operation<{ id: DoorId }, { done: true }> = {
  right: 'set up the programme',
  run: async (context, { id }) => {
    const { name } = await requireDoor(context, id);
    await context.db.delete(doors).where(eq(doors.id, id));
    await context.record({ subject: 'programme', subjectId: id, action: 'door taken away', details: { name } });
    return { done: true };
  },
};

/** One door with what opens it, to be tried. */
export const getSealedDoor: Query<DoorId, SealedDoor> = {
  right: 'set up the programme',
  read: async ({ db, actor }, id) => {
    const [row] = await db
      .select()
      .from(doors)
      .where(and(eq(doors.id, id), eq(doors.programmeId, actor.programmeId)));
    if (!row) throw gone();
    return toSealedDoor(row);
  },
};

const gone = () => new AppError('not found', 'There is no such door.');

async function requireDoor({ db, actor }: Context, id: DoorId) {
  const [known] = await db
    .select()
    .from(doors)
    .where(and(eq(doors.id, id), eq(doors.programmeId, actor.programmeId)))
    .for('update');
  if (!known) throw gone();
  return known;
}

async function requireOwnPlace({ db, actor }: Context, { environmentId, applicationId }: SaveDoor): Promise<void> {
  const here = actor.programmeId;
  const [[environment], [application]] = await Promise.all([
    db
      .select({ id: environments.id })
      .from(environments)
      .where(and(eq(environments.id, environmentId), eq(environments.programmeId, here))),
    db
      .select({ id: applications.id })
      .from(applications)
      .where(and(eq(applications.id, applicationId), eq(applications.programmeId, here))),
  ]);
  if (!environment || !application) throw new AppError('invalid', 'This programme has no such application or environment.');
}
