import { leaveTo } from '../../client/leave-to.ts';
import { useState } from 'react';
import { TextField } from '../../ui/field.tsx';
import { sendJson } from '../../client/request.ts';
import { FormProblem, useForm } from '../../ui/use-form.tsx';
import { TimeZoneField } from '../set-up/time-zone-field.tsx';

interface FirstStepsProps {
  readonly title: string;
  readonly about: string;
  /** Where the form goes. */
  readonly path: string;
  readonly name: string;
  /** null: it is asked for. */
  readonly email: string | null;
  /** Asks for a first programme too. */
  readonly isFounding: boolean;
}

/** An account is made: by invitation, or the very first with its programme. Then she is in. */
export function FirstStepsApp({ title, about, path, name, email, isFounding }: FirstStepsProps) {
  const [typed, setTyped] = useState(email ?? '');
  const form = useForm(async (values) => {
    const { key, hadAccount } = await sendJson<{ key: string; hadAccount?: boolean }>('POST', path, values);
    if (hadAccount) return leaveTo('/sign-in');
    await sendJson('POST', '/api/auth/sign-in/email', { email: typed, password: values['password'] });
    leaveTo(isFounding ? `/${key}/set-up` : '/');
  });
  return (
    <main className="mx-auto max-w-[420px] px-5 py-[9vh]">
      <p className="mb-1 font-bold text-soft">Kindred Baton</p>
      <h1 className="mb-2">{title}</h1>
      <p className="mb-5 text-soft">{about}</p>
      <form onSubmit={form.onSubmit} className="card p-5">
        <TextField
          label="Your name"
          name="name"
          required
          maxLength={200}
          defaultValue={name}
          autoComplete="name"
          problem={form.problemOf('name')}
        />
        {email === null ? (
          <TextField
            label="Mail address"
            name="email"
            type="email"
            required
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            autoComplete="username"
            problem={form.problemOf('email')}
          />
        ) : (
          <input type="hidden" name="username" autoComplete="username" value={email} readOnly />
        )}
        <TextField
          label="Password"
          name="password"
          type="password"
          autoComplete="new-password"
          required
          minLength={8}
          problem={form.problemOf('password')}
          hint="At least 8 characters."
        />
        {isFounding && (
          <>
            <TextField label="Name of the programme" name="programme" required maxLength={200} problem={form.problemOf('programme')} />
            <TimeZoneField chosen={Intl.DateTimeFormat().resolvedOptions().timeZone} problem={form.problemOf('timeZone')} />
          </>
        )}
        <FormProblem form={form} />
        <button type="submit" className="button button-primary w-full" disabled={form.isBusy}>
          {form.isBusy ? 'One moment …' : 'Go in'}
        </button>
      </form>
    </main>
  );
}
