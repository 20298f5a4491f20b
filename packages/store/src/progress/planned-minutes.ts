import type { MinuteProposal, MinuteProposals, TakeMinutes, TookMinutes } from '@kindred-baton/contracts/progress/effort';
import { MOST_PROPOSALS } from '@kindred-baton/contracts/progress/effort';
import { LEAST_TURNS, proposeMinutes, TURNS_LOOKED_AT } from '@kindred-baton/core/progress/effort';
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Operation, Query } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import { tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { withSpent } from '../turns/spent.ts';

interface SpentTest {
  readonly test: string;
  readonly name: string;
  readonly planned: number;
  /** What its newest turns took, the newest first. */
  readonly spent: readonly number[];
}

/** Tests whose planned minutes are not what their turns take: by the newest of all cycles. One query. */
export const getMinuteProposals: Query<undefined, MinuteProposals> = {
  right: 'read',
  read: async (context) => {
    const rows = await readPacked<SpentTest>(context, {
      cells: { test: sql`code`, name: sql`name`, planned: sql`planned`, spent: sql`took` },
      from: sql`from (
        ${withSpent(and(sql`${turns.testId} is not null`, isTurnInScope))}, newest as (
          select *, row_number() over (partition by test order by ended_at desc, turn) as place from spent
        )
        select ${tests.code} as code, ${tests.name} as name, ${tests.minutes} as planned,
          array_agg(round(spent::numeric, 1) order by place) as took
        from newest join ${tests} on ${tests.id} = newest.test
        where place <= ${TURNS_LOOKED_AT} and ${eq(tests.programmeId, context.actor.programmeId)} group by 1, 2, 3
      ) as own`,
    });
    const told = rows.filter(({ spent }) => spent.length >= LEAST_TURNS);
    const proposals = told
      .flatMap(({ spent, ...test }): MinuteProposal[] => {
        const proposed = proposeMinutes(test.planned, spent);
        if (proposed === null) return [];
        return [{ ...test, proposed, of: spent.length, shortest: Math.min(...spent), longest: Math.max(...spent) }];
      })
      .sort((a, b) => gap(b) - gap(a) || (a.test < b.test ? -1 : 1));
    return {
      proposals: proposals.slice(0, MOST_PROPOSALS),
      ...{ total: proposals.length, fitting: told.length - proposals.length, seldom: rows.length - told.length },
    };
  },
};

const gap = ({ planned, proposed }: MinuteProposal) => Math.abs(proposed - planned);

/** Plans tests anew. One that is planned otherwise by now than whoever chose it saw is left as it is, and said; turns that are planned keep their minutes. */
export const takeMinutes: Operation<TakeMinutes, TookMinutes> = {
  right: 'edit tests',
  run: async (context, { changes }) => {
    const { db, actor } = context;
    const codes = changes.map(({ test }) => test);
    const rows = await db
      .select({ id: tests.id, code: tests.code, minutes: tests.minutes })
      .from(tests)
      .where(and(eq(tests.programmeId, actor.programmeId), inArray(tests.code, codes)))
      .orderBy(tests.id)
      .for('update');
    const known = new Map(rows.map((row) => [row.code, row]));
    const own = changes.filter(({ test, from }) => known.get(test)?.minutes === from);
    for (const { test, from, to } of own) {
      const { id } = known.get(test)!;
      await db.update(tests).set({ minutes: to }).where(eq(tests.id, id));
      await context.record({ subject: 'test', subjectId: id, action: 'planned anew', details: { from, to } });
    }
    const changed = new Set(own.map(({ test }) => test));
    return { changed: [...changed], left: codes.filter((code) => !changed.has(code)) };
  },
};
