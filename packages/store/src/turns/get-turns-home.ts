import { and, count, desc, eq, inArray, ne, sql } from 'drizzle-orm';
import type { TurnsHome } from '@kindred-baton/contracts/turns/turn';
import type { Query } from '../operation.ts';
import { cycles } from '../schema/cycles.ts';
import { turns } from '../schema/turns.ts';
import { loadTurnCards } from './load-turn-cards.ts';

const ON_ITS_WAY_SHOWN = 12;
const RECENT_SHOWN = 8;
const WITH_YOU_SHOWN = 50;

/** The tester's home: what is with her, what is on its way to her and who has it, what she passed on. */
export const getTurnsHome: Query<void, TurnsHome> = {
  right: 'read',
  read: async (context) => {
    const { db, actor } = context;
    const live = db
      .select({ id: cycles.id })
      .from(cycles)
      .where(and(eq(cycles.programmeId, actor.programmeId), inArray(cycles.state, ['open', 'closing'])));
    const mine = and(eq(turns.assigneeId, actor.personId), inArray(turns.cycleId, live));
    const onItsWay = and(mine, eq(turns.state, 'waiting'));
    const nearest = sql`case when exists (select 1 from turns as before where before.run_id = ${turns.runId}
      and before.index = any(${turns.after}) and before.state in ('ready', 'under way')) then 0 else 1 end`;
    const [withYou, coming, waiting, done, recent] = await Promise.all([
      loadTurnCards(context, {
        where: and(mine, inArray(turns.state, ['ready', 'under way'])),
        limit: WITH_YOU_SHOWN,
        order: [desc(eq(turns.state, 'under way')), desc(turns.isRetestDue), sql`${turns.dueOn} nulls last`, turns.readyAt, turns.id],
      }),
      loadTurnCards(context, {
        where: onItsWay,
        limit: ON_ITS_WAY_SHOWN,
        order: [nearest, sql`${turns.dueOn} nulls last`, turns.index, turns.id],
      }),
      db.select({ turns: count() }).from(turns).where(onItsWay),
      db
        .select({ outcome: turns.outcome, turns: count() })
        .from(turns)
        .where(and(mine, ne(turns.outcome, 'not run')))
        .groupBy(turns.outcome),
      loadTurnCards(context, { where: and(mine, eq(turns.state, 'done')), limit: RECENT_SHOWN, order: [desc(turns.doneAt), turns.id] }),
    ]);
    const countOf = (outcome: string) => done.find((row) => row.outcome === outcome)?.turns ?? 0;
    return {
      withYou,
      onItsWay: coming,
      moreOnItsWay: Math.max(0, (waiting[0]?.turns ?? 0) - coming.length),
      passedOn: { passed: countOf('passed'), failed: countOf('failed'), blocked: countOf('blocked'), skipped: countOf('skipped'), recent },
    };
  },
};
