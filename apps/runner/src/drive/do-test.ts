import { WHOLE } from '@kindred-baton/core/doors/answer';
import type { Box, Capture } from '@kindred-baton/core/screens/capture';
import { foldWords } from '@kindred-baton/core/screens/capture';
import { findWayIn, listLooks } from '@kindred-baton/core/tests/find-way-in';
import type { Step } from '@kindred-baton/core/tests/step';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import type { WorkingCalendar } from '@kindred-baton/core/time/calendar';
import type { Field } from '@kindred-baton/core/values/field';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { OpenDoor } from '@kindred-baton/doors/door';
import { takePicture } from '../browser/take-picture.ts';
import { ProtocolError, TimeoutError } from 'puppeteer-core';
import type { Session } from '../browser/open-session.ts';
import type { Doorway } from './ask-step.ts';
import type { StepContext } from './do-step.ts';
import { doStep } from './do-step.ts';
import type { Application } from './go-to.ts';
import type { Came, StepReport, TestReport } from './report.ts';
import { PLAIN } from './report.ts';
import type { Account, Entrance } from './sign-in.ts';
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
  readonly doors?: readonly OpenDoor[];
  /** YYYY-MM-DD. */
  readonly day: string;
  readonly calendar: WorkingCalendar;
  readonly patienceMs: number;
  /** Of which steps a picture is taken. */
  readonly pictures: 'each step' | 'failed steps' | 'none';
  /** Passwords: no picture shows them. */
  readonly secrets?: readonly string[];
  /** It goes on at this step: the application is brought there by those before it. */
  readonly fromStep?: number;
  /** What was kept in the steps before. */
  readonly kept?: Readonly<Record<string, string>>;
}

/** Whoever gave the test may stop it, or hold it, before each step. */
export interface TestWatch {
  /** Told of each step as it ends. */
  readonly onStep?: OnStep;
  /** Asked before each step; answers false to stop there. */
  readonly mayGoOn?: (index: number) => Promise<boolean>;
  /** Told of the place on the screen that a step is about to use. */
  readonly onPlace?: (index: number, place: Box) => void;
}

/** A step as it ends, with its picture and the screen as data where they are taken. */
export type OnStep = (report: StepReport, picture: Uint8Array | undefined, capture: Capture | undefined) => void;

/**
 * Does a test in a session, step by step, up to the first that does not pass, or to where it is stopped. A step that may be left out and cannot be done
 * is skipped.
 */
export async function doTest(session: Session, test: GivenTest, watch: TestWatch = {}): Promise<TestReport> {
  const steps: StepReport[] = [];
  const kept: Record<string, string> = { ...test.kept };
  const entrance = createEntrance({ steps: test.signIn ?? SIGN_IN_STEPS, account: test.account, accountOf: test.accountOf });
  const tools: Tools = { session, test, entrance, onPlace: watch.onPlace, doorway: { doors: test.doors ?? [], asked: undefined } };
  const fromStep = test.fromStep ?? 0;
  const lost = fromStep > 0 ? await bringTo(fromStep, tools, kept) : undefined;
  for (const [index, step] of [...test.steps.entries()].slice(fromStep)) {
    if (watch.mayGoOn && !(await watch.mayGoOn(index))) return { outcome: 'stopped', steps, kept };
    const from = performance.now();
    const came = lost === undefined ? await tryStep(index, tools, kept) : { ...PLAIN, outcome: 'blocked' as const, note: lost };
    const isLeftOut = step.optional === true && came.outcome === 'blocked' && !session.isCrashed() && lost === undefined;
    const outcome = isLeftOut ? 'skipped' : came.outcome;
    const report: StepReport = { ...came, index, outcome, tookMs: Math.round(performance.now() - from) };
    Object.assign(kept, came.kept);
    steps.push(report);
    const isStopped = outcome === 'failed' || outcome === 'blocked';
    // The answer of a door stands in the report; the screen behind it says nothing of it.
    const isTaken = !tools.doorway.asked && (test.pictures === 'each step' || (test.pictures === 'failed steps' && isStopped));
    if (isTaken) watch.onStep?.(report, await takePicture(session.tab(), report.place, test.secrets), session.tab().lastCapture());
    else watch.onStep?.(report, undefined, undefined);
    if (outcome === 'failed' || outcome === 'blocked') return { outcome, steps, kept };
  }
  return { outcome: 'passed', steps, kept };
}

interface Tools {
  readonly session: Session;
  readonly test: GivenTest;
  readonly entrance: Entrance;
  readonly doorway: Doorway;
  readonly onPlace: TestWatch['onPlace'];
}

async function tryStep(
  index: number,
  { session, test, entrance, doorway, onPlace }: Tools,
  kept: Readonly<Record<string, string>>,
): Promise<Came> {
  const step = test.steps[index]!;
  const values = [test.values, kept].flatMap((list) => Object.entries(list).map(([name, value]) => ({ name, value })));
  const context: StepContext = {
    ...{ session, doorway, applications: test.applications, patienceMs: test.patienceMs },
    looksAtCode: listLooks(test.steps, index).some(({ target }) => foldWords(target) === WHOLE.code),
    typeOf: (name: string) => test.gives.find((field) => toNameKey(field.name) === toNameKey(name)),
    source: createStepSource({ attempt: test.attempt, day: test.day, calendar: test.calendar, values }),
    signIn: (capture) => entrance.signIn(capture, context),
    actAs: (persona) => entrance.actAs(persona, context),
    onPlace: (place) => onPlace?.(index, place),
  };
  try {
    return await doStep(step, context);
  } catch (error) {
    const isStuck = error instanceof ProtocolError || error instanceof TimeoutError;
    if (!session.isCrashed() && !isStuck) throw error;
    const how = session.isCrashed() ? 'ended' : 'did not answer';
    return { ...PLAIN, outcome: 'blocked', note: `The browser ${how} in the middle of this step.` };
  }
}

/**
 * Does again, without a word of it, what leads to a step: from where its screen was opened. Answers why that did not work; where doing it again gives
 * another value than was kept before, there are two of something now, and a person decides.
 */
async function bringTo(to: number, tools: Tools, kept: Readonly<Record<string, string>>): Promise<string | undefined> {
  const before = new Map(Object.entries(kept).map(([name, value]) => [toNameKey(name), value]));
  for (let index = findWayIn(tools.test.steps, to); index < to; index += 1) {
    const step = tools.test.steps[index]!;
    const came = await tryStep(index, tools, kept);
    const where = `The application could not be brought to step ${to + 1}: step ${index + 1}, done again,`;
    if (came.outcome !== 'passed' && step.optional !== true) return `${where} did not pass. ${came.note || came.actual}`.trim();
    const other = Object.entries(came.kept).find(([name, value]) => (before.get(toNameKey(name)) ?? value) !== value);
    if (other)
      return `${where} gave ${other[1]} as ${other[0]}, and ${before.get(toNameKey(other[0]))} was kept before. Do the rest by hand, or begin anew.`;
  }
  return undefined;
}
