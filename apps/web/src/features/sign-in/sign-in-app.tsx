import { leaveTo } from '../../client/leave-to.ts';
import type { FormEvent } from 'react';
import { useState } from 'react';
import { TextField } from '../../ui/field.tsx';
import { askAuth } from './ask-auth.ts';

interface DemoAccount {
  readonly name: string;
  readonly email: string;
  readonly roles: readonly string[];
  readonly programme: string;
}

interface SignInProps {
  readonly accounts: readonly DemoAccount[];
  /** The demo's shared password; null where there is no demo. */
  readonly demoPassword: string | null;
  /** Where the application that the demo tests stands. */
  readonly practiceAddress: string | null;
  readonly to: string;
}

export function SignInApp({ accounts, demoPassword, practiceAddress, to }: SignInProps) {
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  const enter = async (email: string, password: string) => {
    setIsBusy(true);
    const wrong = await askAuth('sign-in/email', { email, password }, 'That address and password do not belong together.');
    setProblem(wrong);
    if (wrong === null) leaveTo(to);
    else setIsBusy(false);
  };
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    void enter(String(form.get('email')), String(form.get('password')));
  };
  return (
    <main className="mx-auto grid max-w-[980px] gap-8 px-5 py-12 md:grid-cols-[340px_1fr] md:py-[9vh]">
      <section>
        <p className="mb-1 font-bold text-soft">Kindred Baton</p>
        <h1 className="mb-5">Sign in</h1>
        <form onSubmit={submit} className="card p-5">
          <TextField label="Mail address" name="email" type="email" autoComplete="username" required />
          <TextField
            label="Password"
            name="password"
            type="password"
            autoComplete="current-password"
            required
            problem={problem ?? undefined}
          />
          <button type="submit" className="button button-primary w-full" disabled={isBusy}>
            {isBusy ? 'Signing in …' : 'Sign in'}
          </button>
        </form>
        <p className="mt-3 text-[13px]">
          <a className="underline" href="/password">
            Forgot the password?
          </a>
        </p>
      </section>
      {demoPassword !== null && (
        <DemoAccounts {...{ accounts, isBusy, practiceAddress }} onChoose={(email) => void enter(email, demoPassword)} />
      )}
    </main>
  );
}

function DemoAccounts({
  accounts,
  practiceAddress,
  isBusy,
  onChoose,
}: {
  readonly accounts: readonly DemoAccount[];
  readonly practiceAddress: string | null;
  readonly isBusy: boolean;
  readonly onChoose: (email: string) => void;
}) {
  return (
    <section aria-labelledby="demo">
      <h2 id="demo" className="mb-1 text-[17px]">
        Or try the demo as
      </h2>
      <p className="mb-4 text-soft">{accounts[0]?.programme} is invented, and so is everybody in it.</p>
      <ul className="grid gap-2 sm:grid-cols-2">
        {accounts.map(({ name, email, roles }) => (
          <li key={email}>
            <button
              type="button"
              disabled={isBusy}
              onClick={() => onChoose(email)}
              className="card flex w-full items-baseline justify-between gap-3 px-4 py-2.5 text-left hover:border-soft"
            >
              <b>{name}</b>
              <span className="text-[13px] text-soft">{roles.join(', ')}</span>
            </button>
          </li>
        ))}
      </ul>
      {practiceAddress !== null && (
        <p className="mt-4 text-soft">
          What the demo tests is{' '}
          <a className="underline" href={practiceAddress} target="_blank" rel="noreferrer">
            Millrace, a practice application
          </a>
          : every step of every test can be done there.
        </p>
      )}
    </section>
  );
}
