import { isDeepStrictEqual } from 'node:util';
import { and, desc, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ScenarioId } from '@kindred-baton/core/ids';
import { whyNotAgreed } from '@kindred-baton/core/scenarios/check-cells';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { editScenario as editDocument } from '@kindred-baton/core/scenarios/edit-scenario';
import type { ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import type { Context, Operation } from '../operation.ts';
import type { ScenarioRecord } from '../schema/scenarios.ts';
import { scenarioStates, scenarios } from '../schema/scenarios.ts';
import { storeDocument, toDocument } from './document.ts';
import { loadChains } from './load-chains.ts';

/**
 * Makes edits of a scenario, all of them or none, with its row locked, so that two people who edit at once join their edits. Gives the edits
 * that take them back. An agreed scenario that could not be agreed any more (an open leg, a value of the wrong type) is a sketch again.
 */
export const editScenario: Operation<{ code: string; edits: readonly ScenarioEdit[] }, { undo: ScenarioEdit[] }> = {
  right: 'edit scenarios',
  run: async (context, { code, edits }) => {
    const { scenario, document } = await lockScenario(context, code);
    return { undo: await applyEdits(context, { scenario, before: document }, edits) };
  },
};

interface LockedScenario {
  readonly scenario: Pick<ScenarioRecord, 'id' | 'state' | 'agreedDocument'>;
  readonly before: ScenarioDocument;
}

/** Makes edits of a scenario that the caller has locked, or has just begun. */
export async function applyEdits(
  context: Context,
  { scenario, before }: LockedScenario,
  edits: readonly ScenarioEdit[],
): Promise<ScenarioEdit[]> {
  const edited = editDocument(before, edits);
  if (!edited.ok) throw new AppError(edited.isConflict ? 'conflict' : 'invalid', edited.message, { details: { edit: edited.edit } });
  const change = { before, after: edited.document };
  await storeDocument(context, scenario.id, change);
  await settleAgreement(context, scenario, change);
  await keepState(context, scenario.id, change);
  await context.record({ subject: 'scenario', subjectId: scenario.id, action: describeEdits(edits), details: { edits } });
  return edited.undo;
}

/** An agreed scenario that could not be agreed any more is a sketch; once it is again what was agreed, by undo or by hand, it is agreed again. */
async function settleAgreement(
  { db }: Context,
  { id, state, agreedDocument }: LockedScenario['scenario'],
  { before, after }: { readonly before: ScenarioDocument; readonly after: ScenarioDocument },
): Promise<void> {
  const set = (values: { state: 'agreed' | 'sketch'; agreedDocument: ScenarioDocument | null }) =>
    db.update(scenarios).set(values).where(eq(scenarios.id, id));
  if (state === 'agreed' && whyNotAgreed(after) !== null) await set({ state: 'sketch', agreedDocument: before });
  const isBack = agreedDocument !== null && isDeepStrictEqual(toPlain(agreedDocument), toPlain(after));
  if (state === 'sketch' && isBack) await set({ state: 'agreed', agreedDocument: null });
}

const toPlain = (document: ScenarioDocument): unknown => JSON.parse(JSON.stringify(document));

/** “leg added” for one edit, “edited” for several of different kinds. */
function describeEdits(edits: readonly ScenarioEdit[]): string {
  const words = new Set(edits.map(({ kind }) => EDIT_LABELS[kind]));
  const [only] = words;
  return words.size === 1 && only ? only : 'edited';
}

const EDIT_LABELS: Readonly<Record<ScenarioEdit['kind'], string>> = {
  ...{ 'add leg': 'leg added', 'change leg': 'leg changed', 'move leg': 'leg moved', 'remove leg': 'leg removed' },
  ...{ 'add column': 'column added', 'change column': 'column changed', 'remove column': 'column removed' },
  ...{ 'add row': 'row added', 'change row': 'row changed', 'remove row': 'row removed', 'set classes': 'classes changed' },
};

export async function lockScenario(context: Context, code: string) {
  const { db, actor } = context;
  const [scenario] = await db
    .select()
    .from(scenarios)
    .where(and(eq(scenarios.programmeId, actor.programmeId), eq(scenarios.code, code)))
    .for('update');
  if (!scenario) throw new AppError('not found', `There is no scenario ${code}.`);
  const { scenarios: loaded } = await loadChains(context, [scenario.id]);
  const [found] = loaded;
  if (!found) throw new AppError('not found', `There is no scenario ${code}.`);
  if (scenario.onlyTestId !== null)
    throw new AppError(
      'invalid',
      `${code} is a single test as cycles take it in; it follows the test. Begin a scenario to put more around it.`,
    );
  return { scenario, loaded: found, document: toDocument(found) };
}

const SAME_SITTING_MINUTES = 10;

/** Keeps what the scenario is now, to be compared with later; one person's edits of one sitting are one state. */
export async function keepState(
  { db, actor, now }: Context,
  scenarioId: ScenarioId,
  { before, after }: { readonly before: ScenarioDocument | null; readonly after: ScenarioDocument },
): Promise<void> {
  const [last] = await db
    .select({ id: scenarioStates.id, savedBy: scenarioStates.savedBy, savedAt: scenarioStates.savedAt })
    .from(scenarioStates)
    .where(eq(scenarioStates.scenarioId, scenarioId))
    .orderBy(desc(scenarioStates.id))
    .limit(1);
  const isSameSitting = last?.savedBy === actor.personId && now.getTime() - last.savedAt.getTime() < SAME_SITTING_MINUTES * 60_000;
  if (last && isSameSitting) {
    await db.update(scenarioStates).set({ document: after, savedAt: now }).where(eq(scenarioStates.id, last.id));
    return;
  }
  // The first edit keeps what was there before it as well.
  const first = last || before === null ? [] : [{ scenarioId, document: before, savedBy: null, savedAt: now }];
  await db.insert(scenarioStates).values([...first, { scenarioId, document: after, savedBy: actor.personId, savedAt: now }]);
}
