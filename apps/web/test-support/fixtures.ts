import type { TestDetail, TestVersionView } from '@kindred-baton/contracts/tests/test';
import type { AttemptView, GuideView, TurnCard } from '@kindred-baton/contracts/turns/turn';
import type { Step } from '@kindred-baton/core/tests/step';

/** Small views of what the server would answer; a test says what matters to it. Ids are made up. */
const AT = '2026-11-27T09:00:00.000Z';
const id = <Branded extends string>(text: string) => text as Branded;

const STEPS: Step[] = [
  { do: 'go', target: 'Quotes' },
  { do: 'fill', target: 'Survey no.', value: '{Survey no.}', expect: 'The address of {Survey no.}' },
  { do: 'keep', target: 'Quote no.', keepAs: 'Quote no.' },
];

export function makeVersion(more: Partial<TestVersionView> = {}): TestVersionView {
  return {
    ...{ number: 1, state: 'agreed', revision: 1, steps: STEPS, rows: [], savedBy: null, savedAt: AT },
    needs: [{ name: 'Survey no.', type: 'code', pattern: 'SV-99999', required: true }],
    gives: [{ name: 'Quote no.', type: 'code', pattern: 'Q-999', required: true }],
    ...more,
  };
}

export function makeTest(more: Partial<TestDetail> = {}): TestDetail {
  return {
    ...{ id: id('test-1'), code: 'BIL-01', name: 'Price the quote', priority: 'high', runBy: 'person', tags: [], minutes: 15 },
    ...{ path: [], team: null, application: null, versions: [{ number: 1, state: 'agreed' }], version: makeVersion() },
    ...{ usedIn: [], attempts: [] },
    ...more,
  } as TestDetail;
}

export function makeTurn(more: Partial<TurnCard> = {}): TurnCard {
  return {
    ...{ id: id('turn-1'), title: 'Price the quote', test: 'BIL-01', leg: 3, legs: 9, team: 'Billing', assignee: 'Lea Marsh' },
    scenario: { code: 'NS-S1', name: 'Small business gets a supply', rowName: 'Farm' },
    cycle: { code: 'ACC-2', name: 'Acceptance 2' },
    ...{
      state: 'ready',
      status: 'ready',
      isRetest: false,
      dueOn: null,
      changedAt: null,
      holder: null,
      heldBy: null,
      stoppedBy: null,
      minutes: 15,
      nudges: 0,
    },
    arrivals: [{ name: 'Survey no.', value: 'SV-30758', from: { title: 'Survey the site', leg: 2, person: 'Tom Reed' } }],
    ...more,
  };
}

/** What was said at a step, by Lea Marsh. */
export const makeResult = (
  stepIndex: number,
  outcome: AttemptView['results'][number]['outcome'],
  note = '',
): AttemptView['results'][number] => ({
  ...{ stepIndex, outcome, note, by: 'Lea Marsh', isByRunner: false, expected: '', actual: '', unlooked: '', tookMs: null },
});

export function makeAttempt(more: Partial<AttemptView> = {}): AttemptView {
  return {
    ...{ id: id('attempt-1'), number: 1, person: 'Lea Marsh', isMine: true, startedAt: AT, finishedAt: null, outcome: null, kept: {} },
    ...{ environment: 'Acceptance', browser: '', isFromSheet: false, spent: null, results: [], evidence: [] },
    ...{ isWithRunners: false, runner: null, seed: 'attempt-1', canContinue: false, isOfVersion: true, isLeased: false },
    ...more,
  };
}

export function makeGuide(more: Partial<GuideView> = {}): GuideView {
  return {
    ...{
      turn: makeTurn(),
      run: id('run-1'),
      outcome: 'none',
      version: makeVersion(),
      isBare: false,
      rules: { evidence: 'none', failure: [] },
    },
    ...{ mates: [], newerVersion: null, environment: 'Acceptance', address: null, today: '2026-11-27', workingDays: [1, 2, 3, 4, 5] },
    ...{ holidays: [], attempts: [], defects: [], starts: [], note: '', persona: null, refusal: null },
    goesTo: [{ name: 'Quote no.', title: 'Record the deposit', leg: 4, person: 'Ada Flint' }],
    ...more,
  } as GuideView;
}
