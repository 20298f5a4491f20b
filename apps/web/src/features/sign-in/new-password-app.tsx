import type { FormEvent } from 'react';
import { useState } from 'react';
import { leaveTo } from '../../client/leave-to.ts';
import { TextField } from '../../ui/field.tsx';
import { askAuth } from './ask-auth.ts';

const REFUSED = 'This link was used already, or is older than an hour. Ask for another one.';

/** The page behind the letter's link: a password is chosen, and all other sessions of the person end. */
export function NewPasswordApp({ token }: { readonly token: string }) {
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const newPassword = String(new FormData(event.currentTarget).get('password'));
    setIsBusy(true);
    const wrong = await askAuth('reset-password', { token, newPassword }, REFUSED);
    setProblem(wrong);
    setIsBusy(false);
    if (wrong === null) leaveTo('/sign-in');
  };
  return (
    <main className="mx-auto max-w-[420px] px-5 py-[9vh]">
      <p className="mb-1 font-bold text-soft">Kindred Baton</p>
      <h1 className="mb-5">Choose a new password</h1>
      <form onSubmit={(event) => void submit(event)} className="card p-5">
        <TextField
          label="New password"
          name="password"
          type="password"
          autoComplete="new-password"
          required
          minLength={8}
          hint="At least 8 characters."
          problem={problem ?? undefined}
        />
        <button type="submit" className="button button-primary w-full" disabled={isBusy}>
          {isBusy ? 'One moment …' : 'Keep it'}
        </button>
      </form>
      {problem === REFUSED && (
        <p className="mt-4">
          <a className="underline" href="/password">
            Ask for another link
          </a>
        </p>
      )}
    </main>
  );
}
