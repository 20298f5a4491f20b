import { AppError } from '@kindred-baton/contracts/errors';
import type { LegId } from '@kindred-baton/core/ids';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import type { LegDocument } from '@kindred-baton/core/scenarios/scenario-document';
import type { Step } from '@kindred-baton/core/tests/step';
import type { Operation } from '../operation.ts';
import { createTest, loadForChange, saveTest } from '../tests/change-tests.ts';
import { editScenario, lockScenario } from './edit-scenario.ts';

/**
 * Makes a draft test from an open leg, with what the sketch says of it: its words as a step by hand, its needed values filled, its given
 * values kept. The leg then links to it.
 */
export const draftForLeg: Operation<{ code: string; leg: LegId; test: string; node: string }, { code: string }> = {
  right: 'edit tests',
  run: async (context, { code, leg: legId, test, node }) => {
    const { document } = await lockScenario(context, code);
    const leg = document.legs.find(({ id }) => id === legId);
    if (!leg) throw new AppError('not found', `Scenario ${code} no longer has that leg; somebody else may have removed it.`);
    if (leg.test !== null) throw new AppError('conflict', `That leg has test ${leg.test} by now.`);
    const name = leg.title ?? 'Untitled';
    await createTest.run(context, { code: test, name, node, teamId: leg.team as never, applicationId: null });
    const { newest } = await loadForChange(context, test);
    const save = { base: { number: newest.number, revision: newest.revision }, name, minutes: 15, steps: toSteps(leg), rows: [] };
    const fields = (list: LegDocument['needs']) =>
      list.map((field) => ({ ...field, choices: field.choices ? [...field.choices] : undefined }));
    await saveTest.run(context, { code: test, save: { ...save, needs: fields(leg.needs), gives: fields(leg.gives) } });
    const link: ScenarioEdit = { kind: 'change leg', leg: legId, change: { test, title: null } };
    await editScenario.run(context, { code, edits: [link] });
    return { code: test };
  },
};

function toSteps({ title, needs, gives }: LegDocument): Step[] {
  return [
    ...needs.map(({ name }): Step => ({ do: 'fill', target: name, value: `{${name}}` })),
    { do: 'hand', target: title ?? 'Untitled' },
    ...gives.map(({ name }): Step => ({ do: 'keep', target: name, keepAs: name })),
  ];
}
