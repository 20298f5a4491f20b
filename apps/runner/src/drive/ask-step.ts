import type { Answer } from '@kindred-baton/core/doors/answer';
import { findInAnswer, isInAnswer, printAnswer, readSingle } from '@kindred-baton/core/doors/answer';
import { chooseDoor } from '@kindred-baton/core/doors/choose-door';
import { decideAnswer } from '@kindred-baton/core/doors/decide-answer';
import type { Question } from '@kindred-baton/core/doors/read-question';
import { isSafe, readQuestion } from '@kindred-baton/core/doors/read-question';
import { readExpectation } from '@kindred-baton/core/screens/read-expectation';
import type { Step } from '@kindred-baton/core/tests/step';
import { checkValue } from '@kindred-baton/core/values/check-value';
import { fillTemplate } from '@kindred-baton/core/values/template';
import { askDoor } from '@kindred-baton/doors/ask-door';
import type { OpenDoor } from '@kindred-baton/doors/door';
import { NoAnswer } from '@kindred-baton/doors/door';
import { queryJson } from '@kindred-baton/doors/query-json';
import type { StepContext } from './do-step.ts';
import type { Came } from './report.ts';
import { PLAIN } from './report.ts';

/** What was asked last, while nothing has been done on a screen since: *see*, *keep* and *wait* look at it. */
export interface Asked {
  readonly door: OpenDoor;
  readonly question: Question;
  answer: Answer;
}

/** The doors of a test, and what came from them. */
export interface Doorway {
  readonly doors: readonly OpenDoor[];
  asked: Asked | undefined;
}

const AGAIN_MS = 500;

/** Asks a door. An interface that answers with an error has failed, unless the steps that follow look at its code. */
export async function askStep(step: Step, context: StepContext): Promise<Came> {
  const { doorway, source } = context;
  const door = chooseDoor(step, doorway.doors, source);
  if (typeof door === 'string') return { ...PLAIN, outcome: 'blocked', note: door };
  const reading = readQuestion(door.kind, step, source);
  if (!reading.ok) return { ...PLAIN, outcome: 'blocked', note: reading.message };
  return orBlocked(async () => {
    const asked = { door, question: reading.question, answer: await askDoor(door, reading.question) };
    doorway.asked = asked;
    const { words, left } = step.expect === undefined ? { words: [], left: '' } : readExpectation(step.expect, source);
    const isSeen = await untilAnswered(asked, context.patienceMs, (answer) => words.every((one) => isInAnswer(answer, one)));
    const seen = { ...PLAIN, left, actual: printAnswer(asked.answer) };
    const code = asked.answer.code ?? 0;
    if (code >= 400 && !context.looksAtCode) return { ...seen, outcome: 'failed', expected: 'An answer without an error' };
    const expected = step.expect === undefined ? '' : fillTemplate(step.expect, source);
    if (!isSeen) return { ...seen, outcome: 'failed', expected };
    if (step.keepAs === undefined) return { ...seen, outcome: 'passed', expected };
    const single = readSingle(asked.answer);
    return single === undefined
      ? { ...seen, outcome: 'failed', expected: `One value, to keep as “${step.keepAs}”` }
      : keepValue(step.keepAs, single, { ...seen, expected }, context);
  });
}

/** Looks at the answer; asks again, where that changes nothing, until it holds or the time is over. */
export async function seeAnswer(step: Step, asked: Asked, context: StepContext): Promise<Came> {
  const target = toTarget(step, context);
  const value = step.value === undefined ? '' : fillTemplate(step.value, context.source);
  const expected = [step.check, value].filter((part) => part !== undefined && part !== '').join(' ') || target.name;
  const look = () => decideAnswer(asked.answer, { target, check: step.check, value }, queryJson);
  return orBlocked(async () => {
    const patienceMs = step.seconds === undefined ? context.patienceMs : step.seconds * 1_000;
    const holds = await untilAnswered(asked, patienceMs, () => look().holds);
    const { actual, isUnclear } = look();
    const seen = { ...PLAIN, expected, actual: actual || (holds ? expected : '') };
    if (holds) return { ...seen, outcome: 'passed' };
    return isUnclear ? { ...seen, note: actual, outcome: 'blocked' } : { ...seen, outcome: 'failed' };
  });
}

export async function keepAnswer(step: Step, asked: Asked, context: StepContext): Promise<Came> {
  const target = toTarget(step, context);
  const look = () => findInAnswer(asked.answer, target, queryJson);
  return orBlocked(async () => {
    await untilAnswered(asked, context.patienceMs, () => look().kind === 'found');
    const finding = look();
    if (finding.kind === 'none') return { ...PLAIN, outcome: 'blocked', note: finding.message };
    const values = finding.count === null ? finding.items : [String(finding.count)];
    const [value = ''] = values;
    if (values.length === 1) return keepValue(step.keepAs ?? step.target, value, PLAIN, context);
    const note = `“${target.name}” is there ${values.length} times in the answer: say beside what it stands, or a path to one of them.`;
    return { ...PLAIN, outcome: 'blocked', note };
  });
}

/** What should be seen besides, where a step looked at an answer; an *ask* has looked for it itself. */
export function expectAnswered(step: Step, came: Came, asked: Asked, { source }: StepContext): Came {
  if (step.do === 'ask' || step.expect === undefined || came.outcome !== 'passed') return came;
  const { words, left } = readExpectation(step.expect, source);
  const expected = fillTemplate(step.expect, source);
  const absent = words.filter((one) => !isInAnswer(asked.answer, one));
  if (absent.length === 0) return { ...came, expected, left };
  return { ...came, outcome: 'failed', expected, left, actual: `${absent.map((one) => `“${one}”`).join(', ')} is not in the answer.` };
}

function keepValue(name: string, value: string, seen: Omit<Came, 'outcome'>, context: StepContext): Came {
  const type = context.typeOf(name);
  const check = type && checkValue(type, value);
  const problem = value === '' ? 'It is empty.' : check?.ok === false ? check.message : '';
  if (problem !== '') return { ...seen, outcome: 'failed', expected: `A value of “${name}”`, actual: problem };
  return { ...seen, outcome: 'passed', kept: { [name]: value }, actual: value };
}

const toTarget = (step: Step, { source }: StepContext) => ({
  name: fillTemplate(step.target, source),
  beside: step.beside === undefined ? undefined : fillTemplate(step.beside, source),
});

async function untilAnswered(asked: Asked, patienceMs: number, holds: (answer: Answer) => boolean): Promise<boolean> {
  const end = Date.now() + patienceMs;
  for (;;) {
    if (holds(asked.answer)) return true;
    if (!isSafe(asked.question) || Date.now() + AGAIN_MS >= end) return false;
    await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    asked.answer = await askDoor(asked.door, asked.question);
  }
}

/** A question without an answer could not be asked: that blocks, and fails nothing. */
async function orBlocked(doing: () => Promise<Came>): Promise<Came> {
  try {
    return await doing();
  } catch (error) {
    if (error instanceof NoAnswer) return { ...PLAIN, outcome: 'blocked', note: error.message };
    throw error;
  }
}
