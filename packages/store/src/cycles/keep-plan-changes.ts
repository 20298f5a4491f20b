import { and, eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { CyclePlanView, KeptPlanChange } from '@kindred-baton/contracts/cycles/plan';
import type { PersonId, TeamId } from '@kindred-baton/core/ids';
import type { Context } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import { requireReceiver } from '../runs/require-receiver.ts';
import { teamMembers, teams } from '../schema/programmes.ts';
import { changeScope } from './change-scope.ts';

type Kept<Kind extends KeptPlanChange['kind']> = Extract<KeptPlanChange, { kind: Kind }>;
type Plan = CyclePlanView & { readonly code: string };
type Keep<Kind extends KeptPlanChange['kind']> = (context: Context, change: Kept<Kind>, plan: Plan, why: string) => Promise<void>;

/** What each change of a plan is in the programme. Adding a kind: a line here, one in core and one in contracts. */
const KEEP: { readonly [Kind in KeptPlanChange['kind']]: Keep<Kind> } = {
  // Who takes which turn is written with the plan.
  share: async () => undefined,
  'move person': async (context, { person, lane }, plan) => {
    await requirePlanned(context, plan, { person, lane });
    const own = await listOwnRows(context, person);
    await context.db.delete(teamMembers).where(
      and(
        eq(teamMembers.personId, person),
        inArray(
          teamMembers.teamId,
          own.map(({ teamId }) => teamId),
        ),
      ),
    );
    await context.db.insert(teamMembers).values({ teamId: lane, personId: person, hoursPerDay: getHours(own) });
    await note(context, 'moved to another team', { person, team: lane });
  },
  'join lane': async (context, { person, lane }, plan) => {
    await requirePlanned(context, plan, { person, lane });
    const own = await listOwnRows(context, person);
    await context.db
      .insert(teamMembers)
      .values({ teamId: lane, personId: person, hoursPerDay: getHours(own) })
      .onConflictDoNothing();
    await note(context, 'joined another team', { person, team: lane });
  },
  'more hours': async (context, { lane, minutes }, plan) => {
    await requirePlanned(context, plan, { lane });
    const inLane = plan.people.filter(({ teams: own }) => own.includes(lane));
    for (const { id } of inLane) {
      const own = await listOwnRows(context, id);
      const hours = (getHours(own) ?? 0) + minutes / 60;
      if (hours > 24) throw new AppError('invalid', 'A day has no more than 24 hours.');
      await context.db
        .update(teamMembers)
        .set({ hoursPerDay: hours })
        .where(
          and(
            eq(teamMembers.personId, id),
            inArray(
              teamMembers.teamId,
              own.map(({ teamId }) => teamId),
            ),
          ),
        );
    }
    await note(context, 'hours changed', { team: lane, moreMinutesADay: minutes, people: inLane.length });
  },
  'leave out': async (context, { runs }, plan, why) => {
    await changeScope.run(context, { code: plan.code, change: { add: [], drop: runs, why } });
  },
};

/** Keeps what was tried with a plan, in the order in which it was tried; all of it or nothing. */
export async function keepPlanChanges(
  context: Context,
  plan: Plan,
  { changes, why }: { readonly changes: readonly KeptPlanChange[]; readonly why: string },
): Promise<void> {
  for (const change of changes) await (KEEP[change.kind] as Keep<KeptPlanChange['kind']>)(context, change as never, plan, why);
}

async function requirePlanned(context: Context, plan: Plan, { person, lane }: { person?: PersonId; lane: TeamId }): Promise<void> {
  await requireOwn(context, { teamId: lane });
  if (person === undefined) return;
  await requireReceiver(context, person);
  if (!plan.people.some(({ id }) => id === person)) throw new AppError('conflict', 'A chosen person is in no team any more. Look again.');
}

/** Her rows in this programme's teams, in the order of the teams: the first says her hours. */
function listOwnRows({ db, actor }: Context, personId: PersonId) {
  return db
    .select({ teamId: teamMembers.teamId, hoursPerDay: teamMembers.hoursPerDay, ofTeam: teams.hoursPerDay })
    .from(teamMembers)
    .innerJoin(teams, and(eq(teams.id, teamMembers.teamId), eq(teams.programmeId, actor.programmeId)))
    .where(eq(teamMembers.personId, personId))
    .orderBy(teams.position);
}

/** The hours that she has now, which go with her. */
const getHours = ([first]: readonly { readonly hoursPerDay: number | null; readonly ofTeam: number }[]) =>
  first ? (first.hoursPerDay ?? first.ofTeam) : null;

async function note(context: Context, action: string, details: Record<string, unknown>): Promise<void> {
  await context.record({ subject: 'programme', subjectId: context.actor.programmeId, action, details });
}
