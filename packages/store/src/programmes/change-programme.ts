import { and, count, eq, max, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeProgramme, CreateProgramme, SaveEnvironment, SaveTeam } from '@kindred-baton/contracts/programmes/programme';
import { checkCycleScheme } from '@kindred-baton/core/cycles/cycle-code';
import type { ApplicationId, EnvironmentId, TeamId } from '@kindred-baton/core/ids';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { cycles } from '../schema/cycles.ts';
import { history } from '../schema/history.ts';
import { nodes } from '../schema/map.ts';
import { applications, environments, installations, members, programmes, teamMembers, teams } from '../schema/programmes.ts';
import { tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { legs } from '../schema/scenarios.ts';
import { toDifference } from '../to-difference.ts';

/** A new programme, empty, with whoever founds it as its lead and administrator. */
export const createProgramme: Operation<CreateProgramme, { key: string }> = {
  right: 'set up the programme',
  reach: 'all programmes',
  run: async ({ db, actor, now, record }, input) => {
    const id = createId<'programme'>();
    const [taken] = await db.select({ id: programmes.id }).from(programmes).where(eq(programmes.key, input.key));
    if (taken) throw new AppError('conflict', `There is a programme at /${input.key} already. Choose another address.`);
    await db.insert(programmes).values({ id, ...input, defectPrefix: 'D' });
    await db.insert(members).values({ programmeId: id, personId: actor.personId, roles: ['lead', 'administrator'] });
    await db.insert(history).values({
      programmeId: id,
      personId: actor.personId,
      at: now,
      subject: 'programme',
      subjectId: id,
      action: 'founded',
      details: { name: input.name },
    });
    await record({ subject: 'programme', subjectId: id, action: 'founded another', details: { key: input.key, name: input.name } });
    return { key: input.key };
  },
};

/** Name, time zone, code scheme of cycles, prefix of defects, web hook. The map's levels and codes are changed on the map. */
export const changeProgramme: Operation<ChangeProgramme, { done: true }> = {
  right: 'set up the programme',
  run: async (context, input) => {
    const { db, actor } = context;
    const problem = input.cycleScheme === undefined ? null : checkCycleScheme(input.cycleScheme);
    if (problem !== null) throw new AppError('invalid', problem, { details: { problems: [{ path: 'cycleScheme', message: problem }] } });
    // A hook is told what happens from now on, not what was before.
    const [own] = await db.select().from(programmes).where(eq(programmes.id, actor.programmeId)).for('update');
    const [last] = input.defectHook
      ? await db
          .select({ id: max(history.id) })
          .from(history)
          .where(eq(history.programmeId, actor.programmeId))
      : [];
    const hook = input.defectHook === undefined ? {} : { hookedUpTo: last?.id ?? 0, hookProblem: '' };
    if (Object.keys(input).length > 0)
      await db
        .update(programmes)
        .set({ ...input, ...hook })
        .where(eq(programmes.id, actor.programmeId));
    await note(context, actor.programmeId, 'changed', toDifference(own ?? {}, input));
    return { done: true };
  },
};

async function note(context: Context, subjectId: string, action: string, details: Record<string, unknown>): Promise<void> {
  await context.record({ subject: 'programme', subjectId, action, details });
}

/** The row of that id, if it is this programme's. */
const ownRow = ({ actor }: Context, table: typeof applications | typeof environments | typeof teams, id: string) =>
  and(sql`${table.id} = ${id}`, eq(table.programmeId, actor.programmeId));

const gone = (what: string) => new AppError('not found', `This programme has no such ${what}.`);
const inUse = (name: string, why: string) => new AppError('conflict', `${name} cannot be taken away: ${why}.`);

/** Names an application; without an id a new one. */
export const saveApplication: Operation<{ id: ApplicationId | null; name: string }, { id: ApplicationId }> = {
  right: 'set up the programme',
  run: async (context, { id, name }) => {
    const { db, actor } = context;
    const key = id ?? createId<'application'>();
    const [known] =
      id === null
        ? []
        : await db
            .select()
            .from(applications)
            .where(ownRow(context, applications, id))
            .for('update');
    if (id === null) await db.insert(applications).values({ id: key, programmeId: actor.programmeId, name });
    else if (known) await db.update(applications).set({ name }).where(eq(applications.id, id));
    else throw gone('application');
    await note(context, key, known ? 'application renamed' : 'application added', toDifference(known ?? {}, { name }));
    return { id: key };
  },
};

export const removeApplication: Operation<ApplicationId, { done: true }> = {
  right: 'set up the programme',
  run: async (context, id) => {
    const { db, actor } = context;
    const [own] = await db
      .select()
      .from(applications)
      .where(and(eq(applications.id, id), eq(applications.programmeId, actor.programmeId)));
    if (!own) throw gone('application');
    const [[byTests], [byNodes]] = await Promise.all([
      db.select({ uses: count() }).from(tests).where(eq(tests.applicationId, id)),
      db.select({ uses: count() }).from(nodes).where(eq(nodes.applicationId, id)),
    ]);
    if ((byTests?.uses ?? 0) + (byNodes?.uses ?? 0) > 0) throw inUse(own.name, `${byTests?.uses} tests and ${byNodes?.uses} nodes name it`);
    await db.delete(installations).where(eq(installations.applicationId, id));
    await db.delete(applications).where(eq(applications.id, id));
    await note(context, id, 'application taken away', { name: own.name });
    return { done: true };
  },
};

/** Names an environment and says where each application is opened in it; without an id a new one. */
export const saveEnvironment: Operation<{ id: EnvironmentId | null } & SaveEnvironment, { id: EnvironmentId }> = {
  right: 'set up the programme',
  run: async (context, { id, name, addresses }) => {
    const { db, actor } = context;
    const key = id ?? createId<'environment'>();
    const [known] =
      id === null
        ? []
        : await db
            .select()
            .from(environments)
            .where(ownRow(context, environments, id))
            .for('update');
    if (id === null) await db.insert(environments).values({ id: key, programmeId: actor.programmeId, name });
    else if (known) await db.update(environments).set({ name }).where(eq(environments.id, id));
    else throw gone('environment');
    const own = await db
      .select({ id: applications.id, name: applications.name })
      .from(applications)
      .where(eq(applications.programmeId, actor.programmeId));
    const was = await db.delete(installations).where(eq(installations.environmentId, key)).returning();
    const rows = own.flatMap(({ id: applicationId }) =>
      addresses[applicationId] ? [{ environmentId: key, applicationId, address: addresses[applicationId] }] : [],
    );
    if (rows.length > 0) await db.insert(installations).values(rows);
    const before = { ...known, addresses: toAddresses(was, own) };
    await note(
      context,
      key,
      known ? 'environment changed' : 'environment added',
      toDifference(before, { name, addresses: toAddresses(rows, own) }),
    );
    return { id: key };
  },
};

/** Addresses by the names of their applications, as the history tells them. */
function toAddresses(
  rows: readonly { readonly applicationId: ApplicationId; readonly address: string }[],
  own: readonly { readonly id: ApplicationId; readonly name: string }[],
): Record<string, string> {
  const nameOf = new Map(own.map(({ id, name }) => [id, name]));
  return Object.fromEntries(rows.map(({ applicationId, address }) => [nameOf.get(applicationId) ?? applicationId, address]));
}

export const removeEnvironment: Operation<EnvironmentId, { done: true }> = {
  right: 'set up the programme',
  run: async (context, id) => {
    const { db, actor } = context;
    const [own] = await db
      .select()
      .from(environments)
      .where(and(eq(environments.id, id), eq(environments.programmeId, actor.programmeId)));
    if (!own) throw gone('environment');
    const [used] = await db.select({ code: cycles.code }).from(cycles).where(eq(cycles.environmentId, id)).limit(1);
    if (used) throw inUse(own.name, `cycle ${used.code} is tested there`);
    await db.delete(installations).where(eq(installations.environmentId, id));
    await db.delete(environments).where(eq(environments.id, id));
    await note(context, id, 'environment taken away', { name: own.name });
    return { done: true };
  },
};

/** A team with its colour, days, hours and holidays; without an id a new one. */
export const saveTeam: Operation<{ id: TeamId | null; team: SaveTeam }, { id: TeamId }> = {
  right: 'set up the programme',
  run: async (context, { id, team }) => {
    const { db, actor } = context;
    const key = id ?? createId<'team'>();
    const values = { ...team, workingDays: [...new Set(team.workingDays)].sort(), holidays: [...new Set(team.holidays)].sort() };
    const [known] =
      id === null
        ? []
        : await db
            .select()
            .from(teams)
            .where(ownRow(context, teams, id))
            .for('update');
    if (id === null) {
      const [last] = await db
        .select({ position: max(teams.position) })
        .from(teams)
        .where(eq(teams.programmeId, actor.programmeId));
      await db.insert(teams).values({ id: key, programmeId: actor.programmeId, position: (last?.position ?? -1) + 1, ...values });
    } else if (known) await db.update(teams).set(values).where(eq(teams.id, id));
    else throw gone('team');
    await note(context, key, known ? 'team changed' : 'team added', toDifference(known ?? {}, values));
    return { id: key };
  },
};

export const removeTeam: Operation<TeamId, { done: true }> = {
  right: 'set up the programme',
  run: async (context, id) => {
    const { db, actor } = context;
    const [own] = await db
      .select()
      .from(teams)
      .where(and(eq(teams.id, id), eq(teams.programmeId, actor.programmeId)));
    if (!own) throw gone('team');
    const [[t], [n], [u], [l]] = await Promise.all([
      db.select({ uses: count() }).from(tests).where(eq(tests.teamId, id)),
      db.select({ uses: count() }).from(nodes).where(eq(nodes.teamId, id)),
      db.select({ uses: count() }).from(turns).where(eq(turns.teamId, id)),
      db.select({ uses: count() }).from(legs).where(eq(legs.teamId, id)),
    ]);
    if ([t, n, u, l].some((row) => (row?.uses ?? 0) > 0))
      throw inUse(own.name, `${t?.uses} tests, ${n?.uses} nodes, ${l?.uses} legs and ${u?.uses} turns are its`);
    await db.delete(teamMembers).where(eq(teamMembers.teamId, id));
    await db.delete(teams).where(eq(teams.id, id));
    await note(context, id, 'team taken away', { name: own.name });
    return { done: true };
  },
};
