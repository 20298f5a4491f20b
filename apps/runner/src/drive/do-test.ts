import type { Step } from '@kindred-baton/core/tests/step';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import type { WorkingCalendar } from '@kindred-baton/core/time/calendar';
import type { Field } from '@kindred-baton/core/values/field';
import { toNameKey } from '@kindred-baton/core/values/field';
import { takePicture } from '../browser/take-picture.ts';
import { ProtocolError, TimeoutError } from 'puppeteer-core';
import type { Session } from '../browser/open-session.ts';
import type { StepContext } from './do-step.ts';
import { doStep } from './do-step.ts';
import type { Application } from './go-to.ts';
import type { StepReport, TestReport } from './report.ts';
import type { Account } from './sign-in.ts';
import { createEntrance, SIGN_IN_STEPS } from './sign-in.ts';

/** A test as a runner is given it: its steps, its values, and where and as whom it is done. */
export interface GivenTest {
  /** Fixes the fresh values. */
  readonly attempt: string;
  readonly steps: readonly Step[];
  readonly values: Readonly<Record<string, string>>;
  /** What the test gives, so that a kept value is taken when it is one. */
  readonly gives: readonly Field[];
  readonly applications: readonly Application[];
  readonly account: Account | undefined;
  readonly accountOf: (persona: string) => Account | undefined;
  readonly signIn?: readonly Step[];
  /** YYYY-MM-DD. */
  readonly day: string;
  readonly calendar: WorkingCalendar;
  readonly patienceMs: number;
  /** Of which steps a picture is taken. */
  readonly pictures: 'each step' | 'failed steps' | 'none';
}

/** A step as it ends, with its picture where one is taken. */
export type OnStep = (report: StepReport, picture: Uint8Array | undefined) => void;

/**
 * Does a test in a session, step by step, up to the first that does not pass. A step that may be left out and cannot be done is skipped.
 * `onStep` is told of each as it ends.
 */
export async function doTest(session: Session, test: GivenTest, onStep: OnStep = () => undefined): Promise<TestReport> {
  const steps: StepReport[] = [];
  const kept: Record<string, string> = {};
  const entrance = createEntrance({ steps: test.signIn ?? SIGN_IN_STEPS, account: test.account, accountOf: test.accountOf });
  for (const [index, step] of test.steps.entries()) {
    const from = performance.now();
    const values = [test.values, kept].flatMap((list) => Object.entries(list).map(([name, value]) => ({ name, value })));
    const context: StepContext = {
      ...{ session, applications: test.applications, patienceMs: test.patienceMs },
      typeOf: (name: string) => test.gives.find((field) => toNameKey(field.name) === toNameKey(name)),
      source: createStepSource({ attempt: test.attempt, day: test.day, calendar: test.calendar, values }),
      signIn: (capture) => entrance.signIn(capture, context),
      actAs: (persona) => entrance.actAs(persona, context),
    };
    const came = await doStep(step, context).catch((error: unknown) => {
      const isStuck = error instanceof ProtocolError || error instanceof TimeoutError;
      if (!session.isCrashed() && !isStuck) throw error;
      return {
        outcome: 'blocked' as const,
        expected: '',
        actual: '',
        left: '',
        note: session.isCrashed()
          ? 'The browser ended in the middle of this step.'
          : 'The browser did not answer in the middle of this step.',
        kept: {},
        place: null,
      };
    });
    const isLeftOut = step.optional === true && came.outcome === 'blocked' && !session.isCrashed();
    const report: StepReport = {
      ...came,
      index,
      outcome: isLeftOut ? 'skipped' : came.outcome,
      tookMs: Math.round(performance.now() - from),
    };
    Object.assign(kept, came.kept);
    steps.push(report);
    const isStopped = report.outcome === 'failed' || report.outcome === 'blocked';
    const isTaken = test.pictures === 'each step' || (test.pictures === 'failed steps' && isStopped);
    onStep(report, isTaken ? await takePicture(session.tab(), report.place) : undefined);
    if (report.outcome === 'failed' || report.outcome === 'blocked') return { outcome: report.outcome, steps, kept };
  }
  return { outcome: 'passed', steps, kept };
}
