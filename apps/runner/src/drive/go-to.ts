import { CannotAct } from '../browser/act.ts';
import type { StepContext } from './do-step.ts';

/** An application of the environment: its name as the programme has it, and where it stands. */
export interface Application {
  readonly name: string;
  readonly address: string;
}

const PATIENCE_MS = 30_000;
const SETTLE_MS = 10_000;

/** Brings the application to the front, and signs in where it asks. Answers why that could not be done. */
export async function openApplication({ name, address }: Application, { session, signIn }: StepContext): Promise<string | undefined> {
  const { page, settle, capture } = session.tab();
  if (!page.url().startsWith(address)) {
    const problem = await page.goto(address, { timeout: PATIENCE_MS, waitUntil: 'domcontentloaded' }).then(
      (response) => (response && response.status() >= 500 ? `${name} answers with an error (${response.status()}).` : undefined),
      (error: unknown) => explain(name, address, error, session.takeRefused()),
    );
    if (problem !== undefined) return problem;
    await settle(SETTLE_MS);
  }
  return signIn(await capture());
}

function explain(name: string, address: string, error: unknown, refused: readonly string[]): string {
  const words = error instanceof Error ? error.message : String(error);
  if (refused.length > 0) return `${name} sends to ${refused[0]}, which a runner may not reach.`;
  if (/REFUSED|UNREACHABLE|NAME_NOT_RESOLVED|RESET|EMPTY_RESPONSE/.test(words)) return `${name} does not answer at ${address}.`;
  if (/timeout/i.test(words)) return `${name} did not answer within ${PATIENCE_MS / 1_000} s.`;
  throw new CannotAct(`${name} could not be opened: ${words}`);
}
