import type { Box, Capture, ScreenElement } from '@kindred-baton/core/screens/capture';
import { foldWords } from '@kindred-baton/core/screens/capture';
import type { Checked } from '@kindred-baton/core/screens/decide-check';
import { decideCheck } from '@kindred-baton/core/screens/decide-check';
import { describeFinding } from '@kindred-baton/core/screens/describe-finding';
import type { Finding, Target, Want } from '@kindred-baton/core/screens/find-element';
import { findElement } from '@kindred-baton/core/screens/find-element';
import { readExpectation } from '@kindred-baton/core/screens/read-expectation';
import { holdsWords, isOnScreen, readShown } from '@kindred-baton/core/screens/read-shown';
import { isLooking } from '@kindred-baton/core/tests/find-way-in';
import type { Step } from '@kindred-baton/core/tests/step';
import { checkValue } from '@kindred-baton/core/values/check-value';
import type { Field } from '@kindred-baton/core/values/field';
import type { TemplateSource } from '@kindred-baton/core/values/template';
import { fillTemplate, findTemplateNames } from '@kindred-baton/core/values/template';
import { CannotAct, fillElement, findKey, pickOption, pressElement, pressKey } from '../browser/act.ts';
import type { Said, Session } from '../browser/open-session.ts';
import type { Doorway } from './ask-step.ts';
import { askStep, expectAnswered, keepAnswer, seeAnswer } from './ask-step.ts';
import type { Application } from './go-to.ts';
import { openApplication } from './go-to.ts';
import type { Came } from './report.ts';
import { PLAIN } from './report.ts';

export interface StepContext {
  readonly session: Session;
  readonly source: TemplateSource;
  readonly applications: readonly Application[];
  /** Signs in where the screen asks for it; answers why that was refused. */
  readonly signIn: (capture: Capture) => Promise<string | undefined>;
  /** Makes the next acts those of a persona; answers why that cannot be. */
  readonly actAs: (persona: string) => Promise<string | undefined>;
  /** Told of the place that is about to be used. */
  readonly onPlace?: (place: Box) => void;
  /** What a kept value has to be, by its name: one that is still coming is not taken. */
  readonly typeOf: (name: string) => Field | undefined;
  readonly doorway: Doorway;
  /** Steps after an *ask* look at the code that an interface answers with: one of an error is as good as any. */
  readonly looksAtCode: boolean;
  /** How long a thing may take to come. */
  readonly patienceMs: number;
}

/** Whether a screen asks for a password. */
export const isSignInAsked = ({ elements }: Capture): boolean => elements.some(({ isSecret, isVisible }) => isSecret && isVisible);

/** Does one step as its words say, and looks for what should be seen. What goes wrong is a sentence; nothing is thrown but faults of our own. */
export async function doStep(step: Step, context: StepContext): Promise<Came> {
  const missing = [step.target, step.within, step.beside, step.value, step.expect].flatMap((text) =>
    text === undefined ? [] : findTemplateNames(text).filter((name) => context.source.valueOf(name) === undefined),
  );
  if (missing.length > 0) return { ...PLAIN, outcome: 'blocked', note: `There is no value for ${missing.join(', ')}.` };
  try {
    const refused = step.as === undefined ? undefined : await context.actAs(step.as);
    if (refused !== undefined) return { ...PLAIN, outcome: 'blocked', note: refused };
    if (!isLooking(step)) context.doorway.asked = undefined;
    const came = await ACTS[step.do](step, context);
    if (context.doorway.asked) return expectAnswered(step, came, context.doorway.asked, context);
    if (came.outcome === 'passed' && step.expect !== undefined) return await expectSeen(step.expect, context, came);
    refuseQuestions(context.session.takeSaid());
    return came;
  } catch (error) {
    if (error instanceof CannotAct) return { ...PLAIN, outcome: 'blocked', note: error.message };
    throw error;
  }
}

const ACTS: Readonly<Record<Step['do'], (step: Step, context: StepContext) => Promise<Came>>> = {
  go: goTo,
  press,
  fill: (step, context) => act(step, context, { want: 'field', with: ({ tab }, element, value) => fillElement(tab(), element, value) }),
  pick: (step, context) => act(step, context, { want: 'choice', with: pick }),
  ask: askStep,
  see: look,
  keep: (step, context) => (context.doorway.asked ? keepAnswer(step, context.doorway.asked, context) : keepThing(step, context)),
  wait: look,
  hand: (step) => Promise.resolve({ ...PLAIN, outcome: 'blocked', note: `“${step.target}” is to be done by hand; no runner can.` }),
};

const SETTLE_MS = 10_000;

const toTarget = (step: Step, want: Want, { source }: StepContext): Target => ({
  ...{ want, name: fillTemplate(step.target, source) },
  within: step.within === undefined ? undefined : fillTemplate(step.within, source),
  beside: step.beside === undefined ? undefined : fillTemplate(step.beside, source),
});

async function press(step: Step, context: StepContext): Promise<Came> {
  const { session } = context;
  const key = findKey(fillTemplate(step.target, context.source));
  // A key of the keyboard, unless the screen has something of that name.
  if (key !== undefined && findElement(await session.tab().capture(), toTarget(step, 'press', context)).kind === 'none') {
    await pressKey(session.tab(), key);
    await session.tab().settle(SETTLE_MS);
    return { ...PLAIN, outcome: 'passed' };
  }
  return act(step, context, { want: 'press', with: ({ tab }, element) => pressElement(tab(), element) });
}

interface Doing {
  readonly want: Want;
  readonly with: (session: Session, element: ScreenElement, value: string, capture: Capture) => Promise<void>;
}

async function act(step: Step, context: StepContext, doing: Doing): Promise<Came> {
  const { session, source } = context;
  const target = toTarget(step, doing.want, context);
  const { finding, capture } = await findInTime(target, context);
  if (finding.kind !== 'found') return { ...PLAIN, outcome: 'blocked', note: describeFinding(finding, target) };
  const value = fillTemplate(step.value ?? '', source);
  await doing.with(session, finding.element, value, capture);
  await session.tab().settle(SETTLE_MS);
  return { ...PLAIN, outcome: 'passed', place: finding.element.box };
}

/** Of a group the box with the value's words is ticked. */
async function pick({ tab }: Session, element: ScreenElement, value: string, capture: Capture): Promise<void> {
  if (element.role !== 'radiogroup' && element.role !== 'group') return pickOption(tab(), element, value);
  const finding = findElement(capture, { want: 'press', name: value, within: element.name });
  if (finding.kind !== 'found') throw new CannotAct(describeFinding(finding, { want: 'press', name: value, within: element.name }));
  if (!finding.element.isChecked) await pressElement(tab(), finding.element);
}

async function goTo(step: Step, context: StepContext): Promise<Came> {
  const { session } = context;
  const application = context.applications.find(
    ({ name }) => step.within !== undefined && foldWords(step.within).endsWith(foldWords(name)),
  );
  const target = toTarget(step, 'place', context);
  const refused = application && (await openApplication(application, context));
  if (refused !== undefined) return { ...PLAIN, outcome: 'blocked', note: refused };
  const words = application ? { ...target, within: undefined } : target;
  const { finding } = await findInTime(words, context);
  if (finding.kind !== 'found') return { ...PLAIN, outcome: 'blocked', note: describeFinding(finding, words) };
  await pressElement(session.tab(), finding.element);
  await session.tab().settle(SETTLE_MS);
  return { ...PLAIN, outcome: 'passed', place: finding.element.box };
}

/** At the answer of a door, until something is done on a screen again. */
function look(step: Step, context: StepContext): Promise<Came> {
  return context.doorway.asked ? seeAnswer(step, context.doorway.asked, context) : seeThing(step, context);
}

async function seeThing(step: Step, context: StepContext): Promise<Came> {
  const target = toTarget(step, 'shown', context);
  const value = step.value === undefined ? '' : fillTemplate(step.value, context.source);
  const expected = [step.check, value].filter((part) => part !== undefined && part !== '').join(' ') || target.name;
  let checked: Checked | undefined;
  const patienceMs = step.seconds === undefined ? context.patienceMs : step.seconds * 1_000;
  const holds = await untilDecided({ ...context, patienceMs }, (capture) => {
    checked = decideCheck(capture, target, step.check, value);
    return checked.holds;
  });
  const seen = { ...PLAIN, expected, actual: checked?.actual || (holds ? expected : ''), place: checked?.element?.box ?? null };
  if (holds) return { ...seen, outcome: 'passed' };
  // That it cannot be told which one is meant is the step's fault, not the application's.
  return checked?.isUnclear ? { ...seen, note: seen.actual, outcome: 'blocked' } : { ...seen, outcome: 'failed' };
}

async function keepThing(step: Step, context: StepContext): Promise<Came> {
  const target = toTarget(step, 'shown', context);
  const name = step.keepAs ?? step.target;
  const type = context.typeOf(name);
  let kept = '';
  let problem = '';
  const { finding } = await findInTime(target, context, (element) => {
    kept = readShown(element);
    const check = type && checkValue(type, kept);
    problem = kept === '' ? 'It is empty.' : check?.ok === false ? check.message : '';
    return problem === '' && foldWords(kept) !== foldWords(target.name);
  });
  if (finding.kind !== 'found') return { ...PLAIN, outcome: 'blocked', note: describeFinding(finding, target) };
  const place = finding.element.box;
  if (problem !== '' || foldWords(kept) === foldWords(target.name))
    return { ...PLAIN, outcome: 'failed', expected: `A value of “${target.name}”`, actual: problem || 'Nothing stands beside it.', place };
  return { ...PLAIN, outcome: 'passed', kept: { [name]: kept }, actual: kept, place };
}

async function expectSeen(expect: string, context: StepContext, came: Came): Promise<Came> {
  const { words, left } = readExpectation(expect, context.source);
  const expected = fillTemplate(expect, context.source);
  const said: Said[] = [];
  let absent: readonly string[] = words;
  const isSeen = await untilDecided(context, (capture) => {
    said.push(...context.session.takeSaid());
    absent = words.filter((one) => !isOnScreen(capture, one) && !said.some((other) => holdsWords(foldWords(other.words), foldWords(one))));
    return absent.length === 0;
  });
  if (!isSeen) refuseQuestions(said);
  if (isSeen) return { ...came, expected, left, actual: came.actual || words.map((one) => `“${one}”`).join(', ') };
  return { ...came, outcome: 'failed', expected, left, actual: `${absent.map((one) => `“${one}”`).join(', ')} is not on the screen.` };
}

async function findInTime(
  target: Target,
  context: StepContext,
  suits: (element: ScreenElement) => boolean = () => true,
): Promise<{ finding: Finding; capture: Capture }> {
  let last: { finding: Finding; capture: Capture } | undefined;
  await untilDecided(context, (capture) => {
    last = { capture, finding: findElement(capture, target) };
    return last.finding.kind === 'found' && suits(last.finding.element);
  });
  if (last?.finding.kind === 'found') context.onPlace?.(last.finding.element.box);
  return last!;
}

/** A question that nothing was said about stops a test: what comes after it is not what the words mean. */
function refuseQuestions(said: readonly Said[]): void {
  const question = said.find(({ kind }) => kind === 'question');
  if (question) throw new CannotAct(`The application asked “${question.words}”, and no step answers it; it was answered with no.`);
}

const LOOK_MS = 60;

/** Looks again and again until it holds, or the patience is over; signs in again where a session ended. Answers whether it held. */
export async function untilDecided(context: StepContext, holds: (capture: Capture) => boolean): Promise<boolean> {
  const end = Date.now() + context.patienceMs;
  for (;;) {
    const capture = await context.session.tab().capture();
    if (holds(capture)) return true;
    if (isSignInAsked(capture)) {
      const refused = await context.signIn(capture);
      if (refused !== undefined) throw new CannotAct(refused);
    }
    if (Date.now() >= end) return false;
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
}
