import type { WrongSteps, WrongStepsQuery } from '@kindred-baton/contracts/progress/wrong-steps';
import { AppError } from '@kindred-baton/contracts/errors';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { getAllWrongSteps, MOST_STEPS_TAKEN } from '@kindred-baton/store/progress/get-wrong-steps';
import type { Call } from '../../../call.ts';

const TRIED = [
  'Tries',
  'Failed',
  'Blocked',
  'Share that goes wrong, at least',
  'At most',
  'Defects',
  'Turns that wait behind it',
  'Their minutes',
];

/** Where it goes wrong: a line for each step, or field, or screen, the one that costs most first. */
export async function toStepsSheet({ ask }: Pick<Call, 'ask'>, query: WrongStepsQuery): Promise<OutTable> {
  const view = await ask(getAllWrongSteps, { ...query, page: 1 });
  if (view.rows.size > MOST_STEPS_TAKEN)
    throw new AppError(
      'invalid',
      `Something goes wrong at ${view.rows.size.toLocaleString('en')} of them, more than a sheet holds. Narrow it.`,
    );
  const cycle = view.cycle?.code ?? '';
  if (view.each !== 'step')
    return {
      sheet: 'Where it goes wrong',
      headings: ['Cycle', 'Application', view.each === 'target' ? 'Field or button' : 'Screen', 'Tests', 'Steps', ...TRIED],
      rows: view.things.map((thing) => [cycle, thing.application, thing.name, thing.tests, thing.steps, ...toTried(thing)]),
    };
  return {
    sheet: 'Where it goes wrong',
    headings: ['Cycle', 'Test', 'Name', 'Version', 'Step', 'What is done', 'What should be seen', 'Teams', ...TRIED],
    rows: view.wrong.map((step) => [
      ...[cycle, step.test.code, step.test.name, step.version, step.index + 1, step.sentence, step.expect, step.teams.join(', ')],
      ...toTried(step),
    ]),
  };
}

type Tried = Pick<WrongSteps['wrong'][number], 'tries' | 'failed' | 'blocked' | 'low' | 'high' | 'defects' | 'waiting'>;

const toTried = ({ tries, failed, blocked, low, high, defects, waiting }: Tried) => [
  ...[tries, failed, blocked, low, high, defects.map(({ code }) => code).join(', '), waiting.turns, waiting.minutes],
];
