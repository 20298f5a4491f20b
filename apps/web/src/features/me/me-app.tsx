import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import type { Profile } from '@kindred-baton/contracts/programmes/programme';
import type { Notice } from '@kindred-baton/core/programmes/notices';
import { NOTICES } from '@kindred-baton/core/programmes/notices';
import { useState, useSyncExternalStore } from 'react';
import { TextField } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { chooseTheme, readTheme, THEMES } from '../frame/theme.ts';
import { DataAddresses } from './data-addresses.tsx';
import { PasswordForm } from './password-form.tsx';

const NOTICE_LABELS: Readonly<Record<Notice, string>> = {
  baton: 'When a baton comes to me',
  fixed: 'When a defect of my turns is fixed and I am to try again',
  nudge: 'When somebody waits for a baton that I have',
  defect: 'When a defect is given to me or mine moves on; as a lead: new defects, and who cannot go on',
  decision: 'When a process of mine is to be decided on',
  digest: 'In the morning: what is with me and what is due',
  news: 'In the morning: what changed since the last working day; as an owner, in my processes',
};

export function MeApp({ content, ...frame }: PageProps<Profile>) {
  return (
    <AppFrame {...frame} area={null}>
      <Me initial={content} />
    </AppFrame>
  );
}

/** Oneself: name, password, what one is told by mail, the calendar, the look. */
function Me({ initial }: { readonly initial: Profile }) {
  const { viewer } = useProgramme();
  const { change, act } = useChanges();
  const notify = useNotice();
  const { data: profile = initial } = useRead('getProfile', {}, { initialData: initial });
  const form = useForm(async ({ name }) => {
    await change('saveProfile', { input: { name } });
    notify({ kind: 'done', text: 'Kept. It shows everywhere once the page is opened again.' });
  });
  return (
    <>
      <PageTitle
        title={profile.name}
        about={`${profile.email} · ${profile.roles.join(', ')}${profile.teams.length > 0 ? ` · ${profile.teams.join(', ')}` : ''} in ${viewer.programme.name}`}
      />
      <div className="grid max-w-[1000px] gap-4 md:grid-cols-2">
        <section className="card px-5 py-4" aria-labelledby="me-name">
          <h2 id="me-name" className="mb-3 text-[17px]">
            Name
          </h2>
          <form onSubmit={form.onSubmit}>
            <TextField label="Name" name="name" required maxLength={200} defaultValue={profile.name} problem={form.problemOf('name')} />
            <FormFoot form={form} label="Keep" onCancel={() => location.reload()} />
          </form>
        </section>
        <section className="card px-5 py-4" aria-labelledby="me-password">
          <h2 id="me-password" className="mb-3 text-[17px]">
            Password
          </h2>
          <PasswordForm />
        </section>
        <section className="card px-5 py-4" aria-labelledby="me-notices">
          <h2 id="me-notices" className="mb-2 text-[17px]">
            Tell me by mail
          </h2>
          {NOTICES.map((notice) => (
            <label key={notice} className="flex min-h-[30px] items-center gap-2">
              <input
                type="checkbox"
                checked={profile.notices[notice]}
                onChange={(event) =>
                  void act('saveProfile', { input: { notices: { ...profile.notices, [notice]: event.target.checked } } })
                }
              />
              {NOTICE_LABELS[notice]}
            </label>
          ))}
        </section>
        <section className="card px-5 py-4" aria-labelledby="me-calendar">
          <h2 id="me-calendar" className="mb-2 text-[17px]">
            In my calendar
          </h2>
          <Calendar feed={profile.feed} onChange={(feed) => void act('saveProfile', { input: { feed } })} />
        </section>
        <section className="card px-5 py-4" aria-labelledby="data">
          <h2 id="data" className="mb-2 text-[17px]">
            Data for spreadsheets
          </h2>
          <DataAddresses />
        </section>
        <section className="card px-5 py-4" aria-labelledby="me-look">
          <h2 id="me-look" className="mb-2 text-[17px]">
            Look
          </h2>
          <Look />
        </section>
      </div>
    </>
  );
}

/** What only the browser knows, and what does not change by itself. */
const subscribeToNothing = () => () => undefined;

function Calendar({ feed, onChange }: { readonly feed: string | null; readonly onChange: (feed: 'new' | 'none') => void }) {
  const origin = useSyncExternalStore(
    subscribeToNothing,
    () => location.origin,
    () => '',
  );
  if (feed === null)
    return (
      <>
        <p className="mb-3">
          An address that your calendar can follow: what is due of your turns, day by day. Whoever has the address can read it.
        </p>
        <button type="button" className="button" onClick={() => onChange('new')}>
          Make an address
        </button>
      </>
    );
  return (
    <>
      <p className="mb-2">Give this address to your calendar (iCalendar):</p>
      <input
        className="field font-mono text-[13px]!"
        readOnly
        aria-label="Address of my calendar"
        value={origin + feed}
        onFocus={(event) => event.target.select()}
      />
      <p className="mt-3 flex gap-2">
        <button type="button" className="button button-small" onClick={() => onChange('new')}>
          Make a new one
        </button>
        <button type="button" className="button button-small" onClick={() => onChange('none')}>
          Take it away
        </button>
      </p>
    </>
  );
}

function Look() {
  const [, setTimes] = useState(0);
  const chosen = useSyncExternalStore(subscribeToNothing, readTheme, () => null);
  return (
    <fieldset>
      <legend className="sr-only">Look</legend>
      {THEMES.map(({ id, name, theme }) => (
        <label key={id} className="flex min-h-[30px] items-center gap-2">
          <input
            type="radio"
            name="theme"
            checked={chosen === id}
            onChange={() => {
              chooseTheme(theme);
              setTimes((times) => times + 1);
            }}
          />
          {name}
        </label>
      ))}
    </fieldset>
  );
}
