import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Waive } from '@kindred-baton/contracts/tests/test';
import { TEST_FINDING_RULES } from '@kindred-baton/core/tests/findings/rules';
import type { Operation } from '../operation.ts';
import { waivers } from '../schema/tests.ts';
import { loadForChange } from './change-tests.ts';

/** Says that a finding was looked at and may stay, and why; without a note it counts again. */
export const waiveFinding: Operation<{ code: string; waive: Waive }, { done: true }> = {
  right: 'edit tests',
  run: async (context, { code, waive: { rule, about, note } }) => {
    const { db, actor, now } = context;
    const { test } = await loadForChange(context, code);
    if (!TEST_FINDING_RULES.some((known) => known.rule === rule)) throw new AppError('invalid', `There is no rule “${rule}”.`);
    const here = and(eq(waivers.testId, test.id), eq(waivers.rule, rule), eq(waivers.about, about));
    await db.delete(waivers).where(here);
    if (note !== null) await db.insert(waivers).values({ testId: test.id, rule, about, note, personId: actor.personId, at: now });
    const action = note === null ? 'took a waiver back' : 'waived a finding';
    await context.record({ subject: 'test', subjectId: test.id, action, details: { code, rule, about, note } });
    return { done: true };
  },
};
