import { useChanges } from '../../client/use-changes.ts';
import type { TestDetail } from '@kindred-baton/contracts/tests/test';
import type { ChangeTests } from '@kindred-baton/contracts/tests/library';
import { PRIORITIES } from '@kindred-baton/core/values/priority';
import { useState } from 'react';
import { formatMinutes } from '../../ui/format.ts';

interface AboutPartProps {
  readonly test: TestDetail;
  readonly minutes: number;
  readonly canEdit: boolean;
  readonly onMinutes: (minutes: number) => void;
}

/** What a test is besides its steps: it belongs to the test, not to a version. */
export function AboutPart({ test, minutes, canEdit, onMinutes }: AboutPartProps) {
  const { act } = useChanges();
  const [about, setAbout] = useState({ priority: test.priority, runBy: test.runBy, tags: test.tags });
  const change = async (wanted: ChangeTests['change'], next: typeof about) => {
    const before = about;
    setAbout(next);
    if (!(await act('changeTests', { input: { codes: [test.code], change: wanted } }))) setAbout(before);
  };
  const retag = (text: string) => {
    const tags = [...new Set(text.split(',').map((tag) => tag.trim()))].filter((tag) => tag !== '').sort();
    const addTags = tags.filter((tag) => !about.tags.includes(tag));
    const removeTags = about.tags.filter((tag) => !tags.includes(tag));
    if (addTags.length + removeTags.length > 0) void change({ addTags, removeTags }, { ...about, tags });
  };
  const head = `${test.team?.name ?? 'No team'} · ${test.application?.name ?? 'no application'}`;
  if (!canEdit) return <AboutLines head={head} minutes={minutes} about={about} />;
  const row = 'grid grid-cols-[76px_1fr] items-center gap-2';
  return (
    <div className="grid gap-1.5 px-4 py-3 text-[13px]">
      <p>{head}</p>
      <label className={row}>
        Minutes
        <input
          type="number"
          min={1}
          max={10_000}
          className="field"
          value={minutes}
          onChange={(event) => onMinutes(Number(event.target.value))}
        />
      </label>
      <label className={row}>
        Priority
        <select
          className="field"
          value={about.priority}
          onChange={(event) =>
            void change(
              { priority: event.target.value as typeof about.priority },
              { ...about, priority: event.target.value as typeof about.priority },
            )
          }
        >
          {PRIORITIES.map((priority) => (
            <option key={priority}>{priority}</option>
          ))}
        </select>
      </label>
      <label className={row}>
        Done by
        <select
          className="field"
          value={about.runBy}
          onChange={(event) =>
            void change({ runBy: event.target.value as typeof about.runBy }, { ...about, runBy: event.target.value as typeof about.runBy })
          }
        >
          <option value="hand">people</option>
          <option value="runner">runners</option>
        </select>
      </label>
      <label className={row}>
        Tags
        <input
          key={about.tags.join()}
          className="field"
          placeholder="smoke, tariff"
          defaultValue={about.tags.join(', ')}
          onBlur={(event) => retag(event.target.value)}
        />
      </label>
    </div>
  );
}

/** The same for who only looks on. */
function AboutLines({
  head,
  minutes,
  about,
}: {
  readonly head: string;
  readonly minutes: number;
  readonly about: Pick<TestDetail, 'priority' | 'tags'>;
}) {
  return (
    <div className="px-4 py-3 text-[13px]">
      <p>{head}</p>
      <p className="text-soft">
        {formatMinutes(minutes)} by hand · {about.priority} priority
        {about.tags.length > 0 && ` · ${about.tags.join(', ')}`}
      </p>
    </div>
  );
}
