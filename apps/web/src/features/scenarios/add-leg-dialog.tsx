import type { LegDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { Choices } from '@kindred-baton/contracts/programmes/programme';
import type { TestList, TestListItem } from '@kindred-baton/contracts/tests/library';
import type { TeamId } from '@kindred-baton/core/ids';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField, TextField } from '../../ui/field.tsx';
import { getJson } from '../../ui/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import type { ScenarioInHand } from './use-scenario.ts';

interface AddLegDialogProps {
  readonly hand: ScenarioInHand;
  /** The new leg goes behind this one; null: to the end. */
  readonly after: LegDetail | null;
  readonly isOpen: boolean;
  readonly onClose: () => void;
}

const SHOWN = 60;

/** A leg is a test from the library, linked and never copied, or in words what is still to be written. */
export function AddLegDialog({ hand, after, isOpen, onClose }: AddLegDialogProps) {
  const { legs } = hand.scenario;
  const next = after ? (legs[legs.findIndex(({ id }) => id === after.id) + 1]?.id ?? null) : null;
  const place = after ? `after ${after.title}` : 'at the end';
  const addTest = (test: TestListItem) => {
    onClose();
    void hand.addLeg({ before: next, test: test.code });
  };
  return (
    <DialogBox title={`Add a leg ${place}`} isOpen={isOpen} onClose={onClose} width={620}>
      <TestPicker isOpen={isOpen} onPick={addTest} />
      <OpenLegForm
        onAdd={(title, teamId) => {
          onClose();
          void hand.addLeg({ before: next, test: null, title, teamId });
        }}
      />
    </DialogBox>
  );
}

function TestPicker({ isOpen, onPick }: { readonly isOpen: boolean; readonly onPick: (test: TestListItem) => void }) {
  const { api } = useProgramme();
  const [words, setWords] = useState('');
  const { data } = useQuery({
    queryKey: ['tests', 'to pick', words],
    queryFn: () => getJson<TestList>(`${api}/tests?${new URLSearchParams({ q: words, state: 'agreed|draft' }).toString()}`),
    enabled: isOpen,
    placeholderData: (before) => before,
  });
  const found = data?.tests ?? [];
  return (
    <section>
      <TextField
        label="A test from the library"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        placeholder="Words in codes, names and steps"
        autoComplete="off"
      />
      <ul className="-mt-1 mb-4 max-h-[34vh] overflow-auto rounded-control border border-line-2" aria-label="Tests">
        {found.slice(0, SHOWN).map((test) => (
          <li key={test.id} className="border-b border-line-2 last:border-b-0">
            <button
              type="button"
              className="flex w-full items-baseline gap-3 px-3 py-1.5 text-left hover:bg-band"
              onClick={() => onPick(test)}
            >
              <span className="w-[70px] flex-none font-mono text-[13px] text-soft">{test.code}</span>
              <span className="min-w-0 flex-1 font-semibold">{test.name}</span>
              <span className="text-[13px] text-soft">{test.team}</span>
            </button>
          </li>
        ))}
        {found.length > SHOWN && <li className="px-3 py-1.5 text-[13px] text-soft">and {found.length - SHOWN} more; type to narrow</li>}
        {data && found.length === 0 && <li className="px-3 py-2 text-soft">No test has these words.</li>}
      </ul>
    </section>
  );
}

function OpenLegForm({ onAdd }: { readonly onAdd: (title: string, teamId: TeamId | null) => void }) {
  const { api } = useProgramme();
  const { data: choices } = useQuery({ queryKey: ['choices'], queryFn: () => getJson<Choices>(`${api}/choices`) });
  return (
    <form
      className="border-t border-line-2 pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        const form = new FormData(event.currentTarget);
        onAdd(String(form.get('title')).trim(), (String(form.get('teamId')) || null) as TeamId | null);
      }}
    >
      <div className="grid grid-cols-[1fr_180px] gap-3">
        <TextField label="Or an open leg, in words" name="title" required maxLength={200} placeholder="Report a breakdown" />
        <SelectField label="Team" name="teamId">
          <option value="">No team yet</option>
          {(choices?.teams ?? []).map((team) => (
            <option key={team.id} value={team.id}>
              {team.name}
            </option>
          ))}
        </SelectField>
      </div>
      <button type="submit" className="button">
        Add the open leg
      </button>
    </form>
  );
}
