import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { leaveTo } from '../../client/leave-to.ts';
import { PasswordForm } from '../me/password-form.tsx';
import { FirstStepsApp } from './first-steps-app.tsx';
import { SignInApp } from './sign-in-app.tsx';

vi.mock('../../client/leave-to.ts', () => ({ leaveTo: vi.fn() }));

/** The pages before the frame ask plain addresses. */
const answers = new Map<string, () => Response | Promise<Response>>();
const asked: { path: string; body: Record<string, unknown> }[] = [];
const serve = (path: string, answer: () => Response | Promise<Response>) => answers.set(path, answer);

beforeEach(() => {
  vi.mocked(leaveTo).mockClear();
  answers.clear();
  asked.length = 0;
});
/** After openScreen, which has a server of its own. */
const listen = () =>
  vi.stubGlobal('fetch', (path: string, init: RequestInit) => {
    asked.push({ path, body: JSON.parse(String(init.body)) as Record<string, unknown> });
    const answer = answers.get(path);
    return answer ? Promise.resolve(answer()) : Promise.reject(new TypeError('fetch failed'));
  });
const SIGN_IN = '/api/auth/sign-in/email';

describe('signing in', () => {
  const open = () => {
    listen();
    render(
      <SignInApp
        accounts={[{ name: 'Ada Flint', email: 'ada@example.org', roles: ['tester'], programme: 'Brindlemere' }]}
        demoPassword="pass-the-baton"
        practiceAddress="http://127.0.0.1:4227"
        to="/brindlemere/turns?turn=1"
      />,
    );
    return userEvent.setup();
  };
  const enter = async (user: ReturnType<typeof open>) => {
    await user.type(screen.getByLabelText('Mail address'), 'lea@example.org');
    await user.type(screen.getByLabelText('Password'), 'secret words');
    await user.click(screen.getByRole('button', { name: 'Sign in' }));
  };

  it('leads to where she wanted to go', async () => {
    serve(SIGN_IN, () => Response.json({}));
    await enter(open());
    await waitFor(() => expect(leaveTo).toHaveBeenCalledExactlyOnceWith('/brindlemere/turns?turn=1'));
    expect(asked).toEqual([{ path: SIGN_IN, body: { email: 'lea@example.org', password: 'secret words' } }]);
  });

  it.each([
    [401, 'That address and password do not belong together.'],
    [429, 'Too many tries. Wait a minute, then try again.'],
    [500, 'It did not work. Try again in a moment.'],
  ])('says what is wrong at %i, keeps what was typed, and lets her try again', async (status, sentence) => {
    serve(SIGN_IN, () => Response.json({}, { status }));
    await enter(open());
    expect(await screen.findByText(sentence)).toBeTruthy();
    expect(screen.getByLabelText('Mail address')).toHaveProperty('value', 'lea@example.org');
    expect(screen.getByRole('button', { name: 'Sign in' })).toHaveProperty('disabled', false);
    expect(leaveTo).not.toHaveBeenCalled();
  });

  it('says that the server does not answer', async () => {
    await enter(open());
    expect(await screen.findByText('The server does not answer. Try again in a moment.')).toBeTruthy();
  });

  it('as somebody of the demo is one press', async () => {
    serve(SIGN_IN, () => Response.json({}));
    const user = open();
    await user.click(screen.getByRole('button', { name: /Ada Flint/ }));
    await waitFor(() => expect(leaveTo).toHaveBeenCalled());
    expect(asked[0]?.body).toEqual({ email: 'ada@example.org', password: 'pass-the-baton' });
  });
});

describe('first steps', () => {
  const open = (isFounding: boolean, email: string | null) => {
    listen();
    render(<FirstStepsApp title="Welcome" about="" path="/api/first" name="Lea" email={email} isFounding={isFounding} />);
    return userEvent.setup();
  };

  it('founding a programme makes the account, signs in and leads to its set-up', async () => {
    serve('/api/first', () => Response.json({ key: 'trust' }));
    serve(SIGN_IN, () => Response.json({}));
    const user = open(true, null);
    await user.type(screen.getByLabelText('Mail address'), 'lea@example.org');
    await user.type(screen.getByLabelText('Password'), 'secret words');
    await user.type(screen.getByLabelText('Name of the programme'), 'Trust');
    await user.click(screen.getByRole('button', { name: 'Go in' }));
    await waitFor(() => expect(leaveTo).toHaveBeenCalledExactlyOnceWith('/trust/set-up'));
    expect(asked.map(({ path }) => path)).toEqual(['/api/first', SIGN_IN]);
    expect(asked[1]?.body).toEqual({ email: 'lea@example.org', password: 'secret words' });
  });

  it('who is invited and has an account signs in with the password that she has', async () => {
    serve('/api/first', () => Response.json({ key: 'trust', hadAccount: true }));
    const user = open(false, 'lea@example.org');
    await user.type(screen.getByLabelText('Password'), 'secret words');
    await user.click(screen.getByRole('button', { name: 'Go in' }));
    await waitFor(() => expect(leaveTo).toHaveBeenCalledExactlyOnceWith('/sign-in'));
    expect(asked).toHaveLength(1);
  });

  it('what is refused stands at its field', async () => {
    serve('/api/first', () =>
      Response.json(
        { code: 'invalid', message: 'password: Too short.', problems: [{ path: 'password', message: 'Too short.' }] },
        { status: 400 },
      ),
    );
    const user = open(false, 'lea@example.org');
    await user.type(screen.getByLabelText('Password'), 'secret words');
    await user.click(screen.getByRole('button', { name: 'Go in' }));
    expect(await screen.findByText('Too short.')).toBeTruthy();
    expect(leaveTo).not.toHaveBeenCalled();
  });
});

describe('a new password', () => {
  const CHANGE = '/api/auth/change-password';
  const open = () => {
    const { show, user } = openScreen(<PasswordForm />);
    listen();
    show();
    return user;
  };
  const type = async (user: ReturnType<typeof open>, again: string) => {
    for (const [label, text] of [
      ['Now', 'old words'],
      ['New', 'new words'],
      ['New, once more', again],
    ] as const) {
      await user.clear(screen.getByLabelText(label));
      await user.type(screen.getByLabelText(label), text);
    }
    await user.click(screen.getByRole('button', { name: 'Change it' }));
  };

  it('has to be typed twice the same, before anything is sent', async () => {
    await type(open(), 'other words');
    expect(screen.getByText('The two new passwords are not the same.')).toBeTruthy();
    expect(asked).toEqual([]);
  });

  it('is changed, other sessions end, and the fields are empty again', async () => {
    serve(CHANGE, () => Response.json({}));
    await type(open(), 'new words');
    expect(await screen.findByText('The password is changed.')).toBeTruthy();
    expect(asked[0]?.body).toEqual({ currentPassword: 'old words', newPassword: 'new words', revokeOtherSessions: true });
    expect(screen.getByLabelText('Now')).toHaveProperty('value', '');
  });

  it('is not changed with a wrong old one, or without a server, and what was typed stays', async () => {
    serve(CHANGE, () => Response.json({}, { status: 400 }));
    const user = open();
    await type(user, 'new words');
    expect(await screen.findByText('The password that you have now is another.')).toBeTruthy();
    answers.clear();
    await type(user, 'new words');
    expect(await screen.findByText('The server does not answer. Try again in a moment.')).toBeTruthy();
    expect(screen.getByLabelText('New')).toHaveProperty('value', 'new words');
  });
});
