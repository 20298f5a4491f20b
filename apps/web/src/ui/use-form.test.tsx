import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { defer, openScreen } from '../../test-support/open-screen.tsx';
import { RequestError } from '../client/request.ts';
import { TextField } from './field.tsx';
import { FormFoot, useForm } from './use-form.tsx';

type Send = (values: Readonly<Record<string, string>>) => Promise<void>;

function Form({ send }: { readonly send: Send }) {
  const form = useForm(send);
  return (
    <form onSubmit={form.onSubmit}>
      <TextField label="Name" name="name" problem={form.problemOf('name')} />
      <TextField label="Code" name="code" />
      <FormFoot form={form} label="Keep" onCancel={() => {}} />
    </form>
  );
}

const open = (send: Send) => {
  const { user, show } = openScreen(<Form send={send} />);
  show();
  return user;
};
const refuse = (problems: readonly { path: string; message: string }[], message = 'It cannot be kept.') =>
  Promise.reject(new RequestError({ code: 'invalid', message, problems }));

describe('a form', () => {
  it('sends what was typed, once: while it is under way it cannot be sent again', async () => {
    const sent: unknown[] = [];
    const answer = defer<undefined>();
    const user = open(async (values) => {
      sent.push(values);
      await answer.promise;
    });
    await user.type(screen.getByLabelText('Name'), 'Billing');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    const busy = screen.getByRole('button', { name: 'Saving …' });
    expect(busy).toHaveProperty('disabled', true);
    await user.click(busy);
    expect(sent).toEqual([{ name: 'Billing', code: '' }]);
    answer.resolve(undefined);
    expect(await screen.findByRole('button', { name: 'Keep' })).toHaveProperty('disabled', false);
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('shows a problem beside its field, and keeps what was typed', async () => {
    const user = open(() => refuse([{ path: 'name', message: 'It is taken.' }]));
    await user.type(screen.getByLabelText('Name'), 'Billing');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    const field = await screen.findByRole('textbox', { name: 'Name', description: 'It is taken.' });
    expect(field).toHaveProperty('value', 'Billing');
    expect(field.getAttribute('aria-invalid')).toBe('true');
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('tells at its foot what no field shows: no word of the server is lost', async () => {
    const user = open(() =>
      refuse([
        { path: 'name.0', message: 'It is taken.' },
        { path: 'code', message: 'It is no code.' },
        { path: '', message: 'Both are needed.' },
      ]),
    );
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect((await screen.findByRole('alert')).textContent).toBe('code: It is no code. Both are needed.');
    expect(screen.getByText('It is taken.')).toBeTruthy();
  });

  it('tells what has no place at all, and forgets it with the next try', async () => {
    const second = defer<undefined>();
    let tries = 0;
    const user = open(() => ((tries += 1) === 1 ? Promise.reject(new Error('The server does not answer.')) : second.promise));
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect((await screen.findByRole('alert')).textContent).toBe('The server does not answer.');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect(screen.queryByRole('alert')).toBeNull();
    second.resolve(undefined);
  });
});
