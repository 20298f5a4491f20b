import type { Capture } from '@kindred-baton/core/screens/capture';
import type { Step } from '@kindred-baton/core/tests/step';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { StepContext } from './do-step.ts';
import { doStep, isSignInAsked, untilDecided } from './do-step.ts';

/** Who signs in at an application. */
export interface Account {
  readonly user: string;
  readonly password: string;
}

/** How people sign in, where the application has no test of its own for it. */
export const SIGN_IN_STEPS: readonly Step[] = [
  { do: 'fill', target: 'User', value: '{User}' },
  { do: 'fill', target: 'Password', value: '{Password}' },
  { do: 'press', target: 'Sign in' },
];

/** Who works in the application now, and how somebody else does. */
export interface Entrance {
  readonly signIn: (capture: Capture, context: StepContext) => Promise<string | undefined>;
  readonly actAs: (persona: string, context: StepContext) => Promise<string | undefined>;
}

export interface EntranceOptions {
  readonly steps: readonly Step[];
  /** Whoever it is that nothing is said of. */
  readonly account: Account | undefined;
  readonly accountOf: (persona: string) => Account | undefined;
}

/**
 * Signs in where a screen asks for a password. A wrong one is not tried again, so that no account is locked; one that was right before is, once.
 * Passwords are in no report.
 */
export function createEntrance({ steps, account, accountOf }: EntranceOptions): Entrance {
  const refused = new Set<string>();
  const letIn = new Set<string>();
  let current = account;
  const signIn: Entrance['signIn'] = async (capture, context) => {
    if (!isSignInAsked(capture)) return undefined;
    if (!current) return 'The application asks for a sign-in, and no account is set for it.';
    const { user, password } = current;
    if (refused.has(user)) return `The sign-in of ${user} was refused; it is not tried again.`;
    const values = new Map([
      ['user', user],
      ['password', password],
    ]);
    const source = { ...context.source, valueOf: (name: string) => values.get(toNameKey(name)) };
    // Who was let in before has the right password: the application may have ended all sessions just now.
    for (let tries = letIn.has(user) ? 2 : 1; tries > 0; tries -= 1) {
      for (const step of steps) {
        const came = await doStep(step, { ...context, source, signIn: () => Promise.resolve(undefined) });
        if (came.outcome !== 'passed') return `Signing in as ${user} did not work: ${came.note || came.actual}`;
      }
      if (await untilDecided({ ...context, signIn: () => Promise.resolve(undefined) }, (seen) => !isSignInAsked(seen))) {
        letIn.add(user);
        return undefined;
      }
    }
    refused.add(user);
    return `The sign-in of ${user} was refused.`;
  };
  return {
    signIn,
    actAs: async (persona, context) => {
      const wanted = accountOf(persona);
      if (!wanted) return `No account is set for the persona “${persona}” in this environment.`;
      if (wanted.user === current?.user) return undefined;
      current = wanted;
      const { page, settle, capture } = context.session.tab();
      if (page.url() === 'about:blank') return undefined;
      await context.session.forgetSignIn();
      await page.reload({ waitUntil: 'domcontentloaded' });
      await settle(SETTLE_MS);
      return signIn(await capture(), context);
    },
  };
}

const SETTLE_MS = 10_000;
