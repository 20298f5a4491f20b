import { and, asc, desc, eq, gt, isNotNull, isNull, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import { toDay } from '@kindred-baton/core/time/calendar';
import type { ApplicationId, EnvironmentId, PersonId, TeamId, TestId, TurnId } from '@kindred-baton/core/ids';
import type { BareTurn } from '@kindred-baton/core/turns/turn';
import type { Query, ReadContext } from '../operation.ts';
import { cycleEnvironments, cycles, runs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { personas, personaStarts } from '../schema/personas.ts';
import { environments, installations, members, teamMembers, teams } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { attempts, turns } from '../schema/turns.ts';
import { toVersionView } from '../tests/get-test.ts';
import { findBeginRefusal } from '@kindred-baton/core/turns/decide/begin';
import { loadTeamsOf } from '../runs/load-doer.ts';
import { listAttempts } from './list-attempts.ts';
import { loadTurnCards } from './load-turn-cards.ts';

/** All that the guide needs for one turn: steps, values, attempts so far, where to start, and whether it may begin. */
export const getGuide: Query<TurnId, GuideView> = {
  right: 'read',
  read: async (context, turnId) => {
    const [head, [card]] = await Promise.all([
      loadHead(context, turnId),
      loadTurnCards(context, { where: eq(turns.id, turnId), limit: 1 }),
    ]);
    if (!head || !card) throw new AppError('not found', 'There is no such turn in this programme.');
    const [tries, newer, known, mates, starts, teamIds, lastPerson] = await Promise.all([
      listAttempts(context, [head.turn], head.cycle),
      head.version ? findNewerVersion(context, head.version.testId, head.version.number) : null,
      listDefects(context, turnId),
      listMates(context, head.turn.runId),
      listStarts(context, head.environmentId, head.applicationId),
      loadTeamsOf(context, context.actor.personId),
      findLastPerson(context, turnId),
    ]);
    return {
      ...{ turn: card, run: head.turn.runId },
      outcome: head.turn.outcome,
      version: head.version ? toVersionView(head.version, null) : head.turn.bare ? toBareVersion(head.turn.bare, context.now) : null,
      isBare: head.turn.bare !== null,
      rules: { evidence: head.cycle.rules.evidence, failure: [...head.cycle.rules.failure] },
      mates: await listLaneMates(context, head.turn.teamId),
      newerVersion: newer,
      environment: head.environment,
      address: head.address,
      today: toDay(context.now.getTime(), context.actor.timeZone),
      workingDays: head.workingDays ?? [1, 2, 3, 4, 5],
      holidays: head.holidays ?? [],
      attempts: (tries.get(turnId) ?? []).map(({ view }) => view),
      defects: known.map(({ code, title, status }) => ({ code, title, status })),
      goesTo: listReceivers(mates, head.turn.index),
      starts,
      note: head.turn.note,
      persona: head.persona,
      refusal: findBeginRefusal({
        turn: { ...head.turn, hasSteps: head.turn.versionId !== null || head.turn.bare !== null },
        ...{ cycle: head.cycle, leftTo: head.leftTo, defects: known, lastPerson },
        by: { ...context.actor, teams: teamIds },
      }),
    };
  },
};

async function loadHead({ db, actor }: ReadContext, turnId: TurnId) {
  const [head] = await db
    .select({
      turn: turns,
      version: testVersions,
      cycle: cycles,
      leftTo: runs.leftTo,
      applicationId: tests.applicationId,
      persona: personas.name,
      environment: environments.name,
      environmentId: environments.id,
      address: installations.address,
      workingDays: teams.workingDays,
      holidays: teams.holidays,
    })
    .from(turns)
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .innerJoin(runs, eq(runs.id, turns.runId))
    .leftJoin(testVersions, eq(testVersions.id, turns.versionId))
    .leftJoin(tests, eq(tests.id, turns.testId))
    .leftJoin(cycleEnvironments, and(eq(cycleEnvironments.cycleId, cycles.id), eq(cycleEnvironments.applicationId, tests.applicationId)))
    .innerJoin(environments, eq(environments.id, sql`coalesce(${cycleEnvironments.environmentId}, ${cycles.environmentId})`))
    .leftJoin(installations, and(eq(installations.environmentId, environments.id), eq(installations.applicationId, tests.applicationId)))
    .leftJoin(teams, eq(teams.id, turns.teamId))
    .leftJoin(personas, eq(personas.id, turns.personaId))
    .where(and(eq(turns.id, turnId), eq(turns.programmeId, actor.programmeId)));
  return head;
}

/** Who made the newest finished attempt; nobody is bound by one that was broken off. */
async function findLastPerson({ db }: ReadContext, turnId: TurnId): Promise<PersonId | null> {
  const [last] = await db
    .select({ personId: attempts.personId, isAbandoned: attempts.isAbandoned })
    .from(attempts)
    .where(and(eq(attempts.turnId, turnId), isNotNull(attempts.finishedAt)))
    .orderBy(desc(attempts.number))
    .limit(1);
  return last && !last.isAbandoned ? last.personId : null;
}

async function findNewerVersion({ db }: ReadContext, testId: TestId, number: number): Promise<number | null> {
  const [newer] = await db
    .select({ number: testVersions.number })
    .from(testVersions)
    .where(and(eq(testVersions.testId, testId), eq(testVersions.state, 'agreed'), gt(testVersions.number, number)))
    .orderBy(desc(testVersions.number))
    .limit(1);
  return newer?.number ?? null;
}

/** How each persona starts the application in the cycle's environment. */
function listStarts({ db, actor }: ReadContext, environmentId: EnvironmentId, applicationId: ApplicationId | null) {
  if (!applicationId) return [];
  return db
    .select({ persona: personas.name, how: personaStarts.how })
    .from(personaStarts)
    .innerJoin(personas, and(eq(personas.id, personaStarts.personaId), eq(personas.programmeId, actor.programmeId)))
    .where(and(eq(personaStarts.environmentId, environmentId), eq(personaStarts.applicationId, applicationId)));
}

/** A bare turn is led through like any other: its steps are pinned with it. */
function toBareVersion({ steps, gives }: BareTurn, now: Date): GuideView['version'] {
  const fields = gives.map((field) => ({ ...field, choices: field.choices ? [...field.choices] : undefined }));
  return {
    number: 0,
    state: 'agreed',
    revision: 0,
    steps: steps.map((step) => ({ ...step })),
    needs: [],
    gives: fields,
    rows: [],
    savedBy: null,
    savedAt: now.toISOString(),
  };
}

/** The people of its lane, to whom it can be handed. */
function listLaneMates({ db, actor }: ReadContext, teamId: TeamId | null): Promise<GuideView['mates']> {
  if (teamId === null) return Promise.resolve([]);
  return db
    .select({ id: people.id, name: people.name })
    .from(teamMembers)
    .innerJoin(people, eq(people.id, teamMembers.personId))
    .innerJoin(members, and(eq(members.personId, people.id), eq(members.programmeId, actor.programmeId), isNull(members.leftAt)))
    .where(eq(teamMembers.teamId, teamId))
    .orderBy(asc(people.name));
}

function listDefects({ db }: ReadContext, turnId: TurnId) {
  return db
    .select({ code: defects.code, title: defects.title, status: defects.status })
    .from(defectTurns)
    .innerJoin(defects, eq(defects.id, defectTurns.defectId))
    .where(eq(defectTurns.turnId, turnId))
    .orderBy(desc(defects.number));
}

function listMates({ db }: ReadContext, runId: typeof turns.$inferSelect.runId) {
  return db
    .select({ index: turns.index, title: turns.title, needs: turns.needs, person: people.name })
    .from(turns)
    .leftJoin(people, eq(people.id, turns.assigneeId))
    .where(eq(turns.runId, runId))
    .orderBy(asc(turns.index));
}

/** Which later turns take which value from this one. */
function listReceivers(mates: Awaited<ReturnType<typeof listMates>>, index: number): GuideView['goesTo'] {
  return mates.flatMap((mate) =>
    mate.needs.flatMap(({ source }) =>
      source.kind === 'turn' && source.index === index
        ? [{ name: source.name, title: mate.title, leg: mate.index + 1, person: mate.person }]
        : [],
    ),
  );
}
