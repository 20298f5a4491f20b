import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import type { ChangeTests } from '@kindred-baton/contracts/tests/library';
import { PRIORITIES } from '@kindred-baton/core/values/priority';
import { useState } from 'react';
import type { Output } from '../../../client/call.ts';
import { useProgramme } from '../../frame/programme-context.tsx';
import { countOf } from '../../../ui/format.ts';
import { MenuButton } from '../../../ui/menus/menu-button.tsx';

interface BulkBarProps {
  readonly codes: readonly string[];
  readonly total: number;
  readonly onMarkAll: () => void;
  readonly onClear: () => void;
}

type Change = ChangeTests['change'];

/** What can be done with the marked tests, all at once. */
export function BulkBar({ codes, total, onMarkAll, onClear }: BulkBarProps) {
  const { can } = useProgramme();
  const { act } = useChanges();
  const [isBusy, setIsBusy] = useState(false);
  const { data: choices } = useRead('getChoices', {});
  const change = async (wanted: Change) => {
    setIsBusy(true);
    await act('changeTests', { input: { codes: [...codes], change: wanted } }, ({ changed }) => `${countOf(changed, 'test')} changed.`);
    setIsBusy(false);
  };
  const agree = async () => {
    setIsBusy(true);
    await act('agreeTests', { input: { codes: [...codes] } }, describeAgreed);
    setIsBusy(false);
  };
  const named = (list: readonly { id: string; name: string }[] = [], none: string) => [
    ...list.map(({ id, name }) => ({ key: id, name })),
    { key: '', name: none },
  ];
  return (
    <div
      role="toolbar"
      aria-label="Marked tests"
      className="card mb-3 flex flex-wrap items-center gap-2 border-l-4 border-l-baton px-3.5 py-2"
    >
      <b>{countOf(codes.length, 'test')} marked</b>
      {codes.length < total && (
        <button type="button" className="button button-quiet button-small" onClick={onMarkAll}>
          Mark all {total.toLocaleString('en')}
        </button>
      )}
      <button type="button" className="button button-quiet button-small mr-auto" onClick={onClear}>
        Mark none
      </button>
      <MenuButton
        label="Team"
        isDisabled={isBusy}
        choices={named(choices?.teams, 'no team')}
        onChoose={(id) => void change({ teamId: (id || null) as Change['teamId'] })}
      />
      <MenuButton
        label="Application"
        isDisabled={isBusy}
        choices={named(choices?.applications, 'no application')}
        onChoose={(id) => void change({ applicationId: (id || null) as Change['applicationId'] })}
      />
      <MenuButton
        label="Priority"
        isDisabled={isBusy}
        choices={PRIORITIES.map((key) => ({ key, name: key }))}
        onChoose={(key) => void change({ priority: key as Change['priority'] })}
      />
      <MenuButton
        label="Done by"
        isDisabled={isBusy}
        choices={[
          { key: 'hand', name: 'people' },
          { key: 'runner', name: 'runners' },
        ]}
        onChoose={(key) => void change({ runBy: key as Change['runBy'] })}
      />
      {can('agree tests') && (
        <button type="button" className="button" disabled={isBusy} onClick={() => void agree()}>
          Agree
        </button>
      )}
      <TagForm isBusy={isBusy} onChange={change} />
      <MenuButton
        label="Retire"
        isDisabled={isBusy}
        choices={[
          { key: 'yes', name: 'Retire them' },
          { key: 'no', name: 'Take them back' },
        ]}
        onChoose={(key) => void change({ isRetired: key === 'yes' })}
      />
    </div>
  );
}

/** How many were agreed, and what was left as it is. */
function describeAgreed({ agreed, withoutDraft, withoutSteps }: Output<'agreeTests'>): string {
  const said = [`${countOf(agreed, 'draft is', 'drafts are')} agreed.`];
  if (withoutDraft > 0) said.push(`${countOf(withoutDraft, 'test has', 'tests have')} no draft.`);
  if (withoutSteps.length > 0)
    said.push(`Without steps, and left: ${withoutSteps.slice(0, 5).join(', ')}${withoutSteps.length > 5 ? ' …' : ''}.`);
  return said.join(' ');
}

interface TagFormProps {
  readonly isBusy: boolean;
  readonly onChange: (change: Change) => Promise<void>;
}

function TagForm({ isBusy, onChange }: TagFormProps) {
  const [tag, setTag] = useState('');
  return (
    <form
      className="flex gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (tag.trim() !== '') void onChange({ addTags: [tag.trim()] }).then(() => setTag(''));
      }}
    >
      <input className="field w-[110px]!" aria-label="Tag" placeholder="Tag" value={tag} onChange={(event) => setTag(event.target.value)} />
      <button type="submit" className="button" disabled={isBusy || tag.trim() === ''}>
        Add
      </button>
      <button
        type="button"
        className="button"
        disabled={isBusy || tag.trim() === ''}
        onClick={() => void onChange({ removeTags: [tag.trim()] }).then(() => setTag(''))}
      >
        Take off
      </button>
    </form>
  );
}
