import type { DoorAnswer } from '@kindred-baton/contracts/doors/door';
import { printAnswer } from '@kindred-baton/core/doors/answer';
import { chooseDoor } from '@kindred-baton/core/doors/choose-door';
import { decideAnswer } from '@kindred-baton/core/doors/decide-answer';
import type { Question } from '@kindred-baton/core/doors/read-question';
import { readQuestion } from '@kindred-baton/core/doors/read-question';
import type { Step } from '@kindred-baton/core/tests/step';
import type { StepSourceInput } from '@kindred-baton/core/turns/step-source';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import { fillTemplate } from '@kindred-baton/core/values/template';
import { askDoor } from '@kindred-baton/doors/ask-door';
import type { OpenDoor } from '@kindred-baton/doors/door';
import { NoAnswer } from '@kindred-baton/doors/door';
import { queryJson } from '@kindred-baton/doors/query-json';

export interface AskedForStep {
  readonly step: Step;
  readonly looks: readonly Step[];
  readonly values: StepSourceInput;
  readonly doors: readonly OpenDoor[];
}

/** Asks the door of a step, once, and says what the steps that look at the answer find in it. */
export async function askForStep({ step, looks, values, doors }: AskedForStep): Promise<DoorAnswer> {
  const source = createStepSource(values);
  const door = chooseDoor(step, doors, source);
  if (typeof door === 'string') return refuse(door);
  const reading = readQuestion(door.kind, step, source);
  return reading.ok ? goThrough(door, reading.question, { looks, source }) : refuse(reading.message);
}

/** Goes through a door to see that it opens: an interface at where its paths begin, a database for the number one. */
export function tryDoor(door: OpenDoor): Promise<DoorAnswer> {
  const question: Question =
    door.kind === 'interface'
      ? { kind: 'interface', method: 'GET', path: '/', body: undefined }
      : { kind: 'database', statement: 'select current_user as "user", version() as version', parameters: [] };
  return goThrough(door, question, { looks: [], source: undefined });
}

const refuse = (text: string): DoorAnswer => ({ isAnswered: false, text, looks: [] });

interface Looking {
  readonly looks: readonly Step[];
  readonly source: ReturnType<typeof createStepSource> | undefined;
}

async function goThrough(door: OpenDoor, question: Question, { looks, source }: Looking): Promise<DoorAnswer> {
  const mask = (text: string) => (door.secret === '' ? text : text.replaceAll(door.secret, '•••'));
  try {
    const answer = await askDoor(door, question);
    const found = looks.map(({ target, beside, check, value }) => {
      const fill = (text: string | undefined) => (text === undefined || !source ? (text ?? '') : fillTemplate(text, source));
      const sought = { name: fill(target), beside: beside === undefined ? undefined : fill(beside) };
      const { holds, actual } = decideAnswer(answer, { target: sought, check, value: fill(value) }, queryJson);
      return { holds, actual: mask(actual).slice(0, MOST_SIGNS) };
    });
    return { isAnswered: true, text: mask(printAnswer(answer, MOST_SIGNS)), looks: found };
  } catch (error) {
    if (error instanceof NoAnswer) return refuse(mask(error.message));
    throw error;
  }
}

const MOST_SIGNS = 10_000;
