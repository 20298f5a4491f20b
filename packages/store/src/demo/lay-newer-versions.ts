import { deriveInterface } from '@kindred-baton/core/tests/interface';
import type { Step } from '@kindred-baton/core/tests/step';
import { and, eq } from 'drizzle-orm';
import { legs } from '../schema/scenarios.ts';
import { testVersions } from '../schema/tests.ts';
import { toDemoField } from './fields.ts';
import type { DemoTools, LaidProgramme } from './lay-programme.ts';

/** A test that has moved on since its scenarios were agreed: its newer version asks for something that nothing gives yet. */
const MOVED_ON: { readonly code: string; readonly step: Step } = {
  code: 'BIL-09',
  step: { do: 'fill', target: 'Insurer', value: '{Insurer}' },
};

/** The legs stay with the version before, and the newer one is offered. */
export async function layNewerVersions({ db, id, now }: DemoTools, laid: LaidProgramme): Promise<void> {
  const testId = laid.testOf.get(MOVED_ON.code);
  if (!testId) return;
  const [first] = await db
    .select()
    .from(testVersions)
    .where(and(eq(testVersions.testId, testId), eq(testVersions.number, 1)));
  if (!first) return;
  const steps = [...first.steps.slice(0, -2), MOVED_ON.step, ...first.steps.slice(-2)];
  const { needs, gives } = deriveInterface(steps);
  const yesterday = new Date(now.getTime() - 86_400_000);
  await db.insert(testVersions).values({
    ...{ id: id<'testVersion'>(), testId, number: 2, state: 'agreed', steps, rows: first.rows },
    ...{ needs: needs.map(({ name }) => toDemoField(name)), gives: gives.map(({ name }) => toDemoField(name)) },
    ...{ savedBy: first.savedBy, savedAt: yesterday, agreedBy: first.agreedBy, agreedAt: yesterday },
  });
  await db.update(legs).set({ version: 1 }).where(eq(legs.testId, testId));
}
