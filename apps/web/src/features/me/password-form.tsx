import { useState } from 'react';
import { TextField } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';

const LEAST = 8;

/** Changes one's own password; other sessions end with it. */
export function PasswordForm() {
  const notify = useNotice();
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  const change = async (form: HTMLFormElement) => {
    const values = new FormData(form);
    const newPassword = String(values.get('new'));
    if (newPassword !== values.get('again')) return setProblem('The two new passwords are not the same.');
    setIsBusy(true);
    setProblem(null);
    const response = await fetch('/api/auth/change-password', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ currentPassword: values.get('current'), newPassword, revokeOtherSessions: true }),
    }).catch(() => null);
    setIsBusy(false);
    if (!response) return setProblem('The server does not answer. Try again in a moment.');
    if (!response.ok)
      return setProblem(response.status === 400 ? 'The password that you have now is another.' : 'It could not be changed. Try again.');
    form.reset();
    notify({ kind: 'done', text: 'The password is changed.' });
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void change(event.currentTarget);
      }}
    >
      <TextField label="Now" name="current" type="password" autoComplete="current-password" required />
      <TextField
        label="New"
        name="new"
        type="password"
        autoComplete="new-password"
        minLength={LEAST}
        required
        hint={`At least ${LEAST} characters.`}
      />
      <TextField
        label="New, once more"
        name="again"
        type="password"
        autoComplete="new-password"
        minLength={LEAST}
        required
        problem={problem ?? undefined}
      />
      <div className="flex justify-end">
        <button type="submit" className="button button-primary" disabled={isBusy}>
          Change it
        </button>
      </div>
    </form>
  );
}
