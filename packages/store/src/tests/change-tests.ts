import { and, desc, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { CreateTest, SaveTest } from '@kindred-baton/contracts/tests/test';
import type { NodeId, TeamId, TestId } from '@kindred-baton/core/ids';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import { normalizeStep } from '@kindred-baton/core/tests/step';
import { proposeNextCode } from '@kindred-baton/core/values/propose-next-code';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { Field } from '@kindred-baton/core/values/field';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import { history } from '../schema/history.ts';
import { nodes } from '../schema/map.ts';
import { people } from '../schema/people.ts';
import type { TestVersionRow } from '../schema/tests.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { keepLegs } from './change-many-tests.ts';
import { toVersionView } from './get-test.ts';

/** A new test with an empty first draft, at an activity of the map. */
export const createTest: Operation<CreateTest, { code: string }> = {
  right: 'edit tests',
  run: async (context, { code: given, name, node, teamId, applicationId }) => {
    const { db, actor } = context;
    const [place] = await db
      .select()
      .from(nodes)
      .where(and(eq(nodes.programmeId, actor.programmeId), eq(nodes.code, node)));
    if (!place) throw new AppError('not found', `There is no node ${node} on the map.`);
    await requireOwn(context, { teamId, applicationId });
    const code = given || (await proposeTestCode(context, place.id, teamId ?? place.teamId));
    const id = createId<'test'>();
    await db.insert(tests).values({
      ...{ id, code, name, programmeId: actor.programmeId, nodeId: place.id },
      teamId: teamId ?? place.teamId,
      applicationId: applicationId ?? place.applicationId,
    });
    await db.insert(testVersions).values(createDraft(context, id, 1, { steps: [], needs: [], gives: [], rows: [] }));
    await context.record({ subject: 'test', subjectId: id, action: 'added', details: { code, name } });
    return { code };
  },
};

/** After those at the same node, else of the same team, else of all. */
async function proposeTestCode({ db, actor }: Context, nodeId: NodeId, teamId: TeamId | null): Promise<string> {
  const rows = await db
    .select({ code: tests.code, nodeId: tests.nodeId, teamId: tests.teamId })
    .from(tests)
    .where(eq(tests.programmeId, actor.programmeId));
  const nearest = [rows.filter((row) => row.nodeId === nodeId), rows.filter((row) => row.teamId === teamId), rows].find(
    (own) => own.length > 0,
  );
  return proposeNextCode({ near: (nearest ?? []).map(({ code }) => code), all: rows.map(({ code }) => code), first: 'T-001' });
}

export function createDraft(
  context: Context,
  testId: TestId,
  number: number,
  content: Pick<TestVersionRow, 'steps' | 'needs' | 'gives' | 'rows'>,
) {
  return { id: createId<'testVersion'>(), testId, number, savedBy: context.actor.personId, savedAt: context.now, ...content };
}

/** Saves a draft; on an agreed version it begins the next one. Another save meanwhile is a conflict that shows both. */
export const saveTest: Operation<{ code: string; save: SaveTest }, { number: number; revision: number }> = {
  right: 'edit tests',
  run: async (context, { code, save }) => {
    const { db } = context;
    const { test, newest } = await loadForChange(context, code);
    if (newest.state === 'retired') throw new AppError('conflict', `Test ${code} is retired; take it back in the library, then change it.`);
    await requireUnchanged(context, newest, save.base);
    const content = toContent(save);
    const draft = createDraft(context, test.id, newest.number + 1, content);
    if (newest.state === 'draft') {
      await db
        .update(testVersions)
        .set({ ...content, revision: newest.revision + 1, savedBy: context.actor.personId, savedAt: context.now })
        .where(and(eq(testVersions.id, newest.id), eq(testVersions.revision, newest.revision), eq(testVersions.state, 'draft')));
    } else {
      await db.insert(testVersions).values(draft);
    }
    await db.update(tests).set({ name: save.name, minutes: save.minutes }).where(eq(tests.id, test.id));
    const saved =
      newest.state === 'draft' ? { number: newest.number, revision: newest.revision + 1 } : { number: draft.number, revision: 1 };
    await recordSave(context, test.id, { version: saved.number, steps: content.steps.length });
    return saved;
  },
};

/** Agrees the draft: from now on it never changes, and scenarios and cycles use it. */
export const agreeTest: Operation<{ code: string; number: number; revision: number }, { number: number }> = {
  right: 'agree tests',
  run: async (context, { code, number, revision }) => {
    const { db, actor, now } = context;
    const { test, newest } = await loadForChange(context, code);
    await requireUnchanged(context, newest, { number, revision });
    if (newest.state !== 'draft') throw new AppError('conflict', `Version ${number} of ${code} is ${newest.state} already.`);
    if (newest.steps.length === 0) throw new AppError('invalid', `Test ${code} has no steps yet; write some, then agree it.`);
    await db
      .update(testVersions)
      .set({ state: 'agreed', agreedAt: now, agreedBy: actor.personId })
      .where(and(eq(testVersions.id, newest.id), eq(testVersions.state, 'draft')));
    await keepLegs(context, [test.id]);
    await context.record({ subject: 'test', subjectId: test.id, action: 'agreed', details: { version: number } });
    return { number };
  },
};

/** Takes a draft back to the agreed version before it; a first draft is all that there is, and stays. */
export const discardDraft: Operation<{ code: string; number: number; revision: number }, { number: number }> = {
  right: 'edit tests',
  run: async (context, { code, number, revision }) => {
    const { test, newest } = await loadForChange(context, code);
    await requireUnchanged(context, newest, { number, revision });
    if (newest.state !== 'draft')
      throw new AppError('conflict', `Version ${number} of ${code} is ${newest.state}; only a draft can be dropped.`);
    if (newest.number === 1) throw new AppError('invalid', `The draft of ${code} is its first version; there is none to go back to.`);
    await context.db.delete(testVersions).where(and(eq(testVersions.id, newest.id), eq(testVersions.state, 'draft')));
    await context.record({ subject: 'test', subjectId: test.id, action: 'dropped its draft', details: { version: number } });
    return { number: newest.number - 1 };
  },
};

const SAME_SITTING_MINUTES = 10;

/** A draft saves itself every few seconds: saves of one person in one sitting are one line of the history. */
async function recordSave(context: Context, testId: TestId, details: { version: number; steps: number }): Promise<void> {
  const { db, actor, now } = context;
  const [last] = await db
    .select()
    .from(history)
    .where(and(eq(history.subject, 'test'), eq(history.subjectId, testId)))
    .orderBy(desc(history.at), desc(history.id))
    .limit(1);
  const isSameSitting =
    last?.action === 'saved' &&
    last.personId === actor.personId &&
    (last.details as { version?: number })['version'] === details.version &&
    now.getTime() - last.at.getTime() < SAME_SITTING_MINUTES * 60_000;
  if (isSameSitting) await db.update(history).set({ at: now, details }).where(eq(history.id, last.id));
  else await context.record({ subject: 'test', subjectId: testId, action: 'saved', details });
}

export async function loadForChange({ db, actor }: Context, code: string) {
  const [test] = await db
    .select()
    .from(tests)
    .where(and(eq(tests.programmeId, actor.programmeId), eq(tests.code, code)))
    .for('update');
  if (!test) throw new AppError('not found', `There is no test ${code} in the library.`);
  const [newest] = await db.select().from(testVersions).where(eq(testVersions.testId, test.id)).orderBy(desc(testVersions.number)).limit(1);
  if (!newest) throw new AppError('broken', `Test ${code} has no version.`);
  return { test, newest };
}

async function requireUnchanged({ db }: Context, newest: TestVersionRow, base: SaveTest['base']): Promise<void> {
  if (newest.number === base.number && newest.revision === base.revision) return;
  const [saver] = newest.savedBy ? await db.select({ name: people.name }).from(people).where(eq(people.id, newest.savedBy)) : [];
  const by = saver?.name ?? null;
  throw new AppError('conflict', `${by ?? 'Somebody'} saved this test after you opened it. Both versions are shown; nothing is lost.`, {
    details: { theirs: toVersionView(newest, by), by },
  });
}

/** The steps in their one form; needs and gives follow from them, with the types that the author confirmed. */
function toContent(save: SaveTest): Pick<TestVersionRow, 'steps' | 'needs' | 'gives' | 'rows'> {
  const steps = save.steps.map(normalizeStep);
  const derived = deriveInterface(steps, save);
  const needed = new Set(derived.needs.map(({ name }) => toNameKey(name)));
  const extra = save.needs.filter(({ name }) => !needed.has(toNameKey(name)));
  return { steps, needs: [...derived.needs, ...extra] as Field[], gives: [...derived.gives], rows: save.rows };
}
