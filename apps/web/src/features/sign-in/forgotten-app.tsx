import type { FormEvent } from 'react';
import { useState } from 'react';
import { TextField } from '../../ui/field.tsx';
import { askAuth } from './ask-auth.ts';

/** Asks for a letter with a link. Whether an address is known is not told to whoever asks. */
export function ForgottenApp() {
  const [state, setState] = useState<{ readonly problem?: string | undefined; readonly sentTo?: string }>({});
  const [isBusy, setIsBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const email = String(new FormData(event.currentTarget).get('email'));
    setIsBusy(true);
    const problem = await askAuth('request-password-reset', { email }, 'That is no mail address.');
    setState(problem === null ? { sentTo: email } : { problem });
    setIsBusy(false);
  };
  return (
    <main className="mx-auto max-w-[420px] px-5 py-[9vh]">
      <p className="mb-1 font-bold text-soft">Kindred Baton</p>
      <h1 className="mb-5">A new password</h1>
      {state.sentTo === undefined ? (
        <form onSubmit={(event) => void submit(event)} className="card p-5">
          <TextField
            label="Mail address"
            name="email"
            type="email"
            autoComplete="username"
            required
            problem={state.problem}
            hint="A letter with a link goes there."
          />
          <button type="submit" className="button button-primary w-full" disabled={isBusy}>
            {isBusy ? 'One moment …' : 'Send the letter'}
          </button>
        </form>
      ) : (
        <p className="card p-5" role="status">
          If {state.sentTo} is the address of an account, a letter is on its way to it. Its link works once, and for an hour.
        </p>
      )}
      <p className="mt-4">
        <a className="underline" href="/sign-in">
          Back to signing in
        </a>
      </p>
    </main>
  );
}
