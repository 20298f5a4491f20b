import type { Work } from '@kindred-baton/contracts/runners/runner';
import { foldWords } from '@kindred-baton/core/screens/capture';
import type { GivenTest } from '../drive/do-test.ts';
import type { Account } from '../drive/sign-in.ts';

/** A turn as the server gives it, as a test to do in a browser. */
export function toGivenTest(work: Work, patienceMs: number): GivenTest {
  const first = work.steps.find((step) => step.do === 'go' && step.within !== undefined)?.within ?? '';
  const isMain = (application: string) => foldWords(first).endsWith(foldWords(application));
  const accountOf = (persona: string): Account | undefined => {
    const own = work.accounts.filter((account) => foldWords(account.persona) === foldWords(persona));
    return own.find(({ application }) => isMain(application)) ?? own[0];
  };
  return {
    ...{ attempt: work.seed, steps: work.steps, values: work.values, gives: work.gives, applications: work.applications, day: work.day },
    account: work.account === null ? undefined : accountOf(work.account),
    accountOf,
    calendar: { workingDays: work.workingDays, holidays: work.holidays },
    ...{ patienceMs, pictures: work.pictures, fromStep: work.fromStep, kept: work.kept },
    doors: work.doors,
    secrets: listSecrets(work),
  };
}

export const listSecrets = ({ accounts, doors }: Work): string[] =>
  [...new Set([...accounts.map(({ password }) => password), ...doors.map(({ secret }) => secret)])].filter((text) => text !== '');

/** A text without the secrets that it may hold. */
export const maskSecrets = (text: string, secrets: readonly string[]): string =>
  secrets.reduce((masked, secret) => masked.replaceAll(secret, '•••'), text);
