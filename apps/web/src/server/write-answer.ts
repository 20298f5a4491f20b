import { AppError } from '@kindred-baton/contracts/errors';
import type { Route } from '@kindred-baton/contracts/route';

/** Answers that were checked and written already, by what they are. */
const written = new WeakMap<object, string>();

const isObject = (value: unknown): value is object => typeof value === 'object' && value !== null;

/** An answer's text is known: it was written elsewhere. */
export function keepWritten(answer: unknown, text: string): void {
  if (isObject(answer)) written.set(answer, text);
}

/** An answer as it goes out, checked against its route: a bad one is our mistake. What several readers share is written once. */
export function writeAnswer(route: Route, answer: unknown): string {
  const known = isObject(answer) ? written.get(answer) : undefined;
  if (known !== undefined) return known;
  const checked = route.output?.safeParse(answer);
  if (!checked?.success) throw new AppError('broken', 'The server’s answer was not as agreed.', { cause: checked?.error });
  const text = JSON.stringify(checked.data);
  keepWritten(answer, text);
  return text;
}
