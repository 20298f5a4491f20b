import { useRead } from '../../../client/use-read.ts';
import type { TestListItem } from '@kindred-baton/contracts/tests/library';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { findLane, readWorkshopText } from '@kindred-baton/core/scenarios/read-workshop-line';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import { keepPreviousData } from '@tanstack/react-query';
import GripVertical from 'lucide-react/icons/grip-vertical';
import X from 'lucide-react/icons/x';
import { useState } from 'react';
import { countOf } from '../../../ui/format.ts';
import { SidePanel } from '../../../ui/side-panel.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { TEST_CARGO } from './use-relay-drag.ts';
import type { DrawnLeg, ScenarioEditor } from '../use-scenario.ts';

interface AddPanelProps {
  readonly editor: ScenarioEditor;
  /** New legs go behind this one; null: to the end. */
  readonly after: DrawnLeg | null;
}

const SHOWN = 60;

/** New legs: tests from the library, linked and never copied, or lines of words whose tests are still to be written. */
export function AddPanel({ editor, after }: AddPanelProps) {
  const address = useAddress();
  const isLines = address.get('add') === 'lines';
  const tab = (key: string, name: string, isOn: boolean) => (
    <button
      type="button"
      aria-pressed={isOn}
      className={`button button-small ${isOn ? 'border-ink! font-bold' : 'button-quiet'}`}
      onClick={() => address.set({ add: key })}
    >
      {name}
    </button>
  );
  const close = () => address.set({ add: null, find: null });
  const next = after ? (editor.legs[after.index + 1]?.id ?? null) : null;
  return (
    <SidePanel label="Add legs" onEscape={close}>
      <div className="flex items-start justify-between gap-2 px-4 pt-3 pb-2">
        <div>
          <h2 className="text-[17px] leading-6">Add legs</h2>
          <p className="text-[13px] text-soft">{after ? `behind leg ${after.index + 1}, ${after.title}` : 'at the end'}</p>
        </div>
        <button type="button" className="button button-quiet button-small" aria-label="Close" onClick={close}>
          <X size={16} aria-hidden />
        </button>
      </div>
      <div className="flex gap-1 px-4 pb-2">
        {tab('tests', 'Tests', !isLines)}
        {tab('lines', 'In lines', isLines)}
      </div>
      {isLines ? <Lines editor={editor} before={next} /> : <Tests editor={editor} before={next} />}
    </SidePanel>
  );
}

interface PlaceProps {
  readonly editor: ScenarioEditor;
  readonly before: string | null;
}

function Tests({ editor, before }: PlaceProps) {
  const address = useAddress();
  const [words, setWords] = useState(address.get('find') ?? '');
  const { data } = useRead('listTests', { input: { q: words, state: 'agreed|draft' } }, { placeholderData: keepPreviousData });
  const found = data?.tests ?? [];
  const add = (test: TestListItem) =>
    void editor.run([{ kind: 'add leg', leg: createLeg({ id: crypto.randomUUID(), test: test.code }), before }]);
  const addOpen = async () => {
    const leg = createLeg({ id: crypto.randomUUID(), title: words.trim().slice(0, 200) });
    if (await editor.run([{ kind: 'add leg', leg, before }])) setWords('');
  };
  return (
    <div className="px-4 pb-3">
      <input
        className="field"
        aria-label="Words in codes, names, steps and values"
        placeholder="Words in codes, names, steps"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        // eslint-disable-next-line jsx-a11y/no-autofocus -- the panel was opened to search
        autoFocus
      />
      <p className="hint my-1">Drag one into the relay, or press it.</p>
      <ul className="max-h-[max(240px,calc(100vh-470px))] overflow-auto rounded-control border border-line-2" aria-label="Tests">
        {found.slice(0, SHOWN).map((test) => (
          <li key={test.id} className="border-b border-line-2 last:border-b-0">
            <button
              type="button"
              draggable
              onDragStart={(event) => {
                event.dataTransfer.setData(TEST_CARGO, test.code);
                event.dataTransfer.setData('text/plain', test.code);
                event.dataTransfer.effectAllowed = 'copy';
              }}
              className="flex w-full items-center gap-1.5 px-1.5 py-1.5 text-left hover:bg-band"
              onClick={() => add(test)}
            >
              <GripVertical size={14} aria-hidden className="flex-none text-soft" />
              <span className="min-w-0 flex-1">
                <b className="block truncate text-[13px]">{test.name}</b>
                <span className="block truncate text-[12px] text-soft">
                  <span className="font-mono">{test.code}</span> {test.team}
                </span>
              </span>
            </button>
          </li>
        ))}
        {found.length > SHOWN && <li className="px-3 py-1.5 text-[13px] text-soft">and {found.length - SHOWN} more; type to narrow</li>}
        {data && found.length === 0 && <li className="px-3 py-2 text-soft">No test has these words.</li>}
      </ul>
      {data && found.length === 0 && words.trim() !== '' && (
        <button type="button" className="button button-small mt-2" onClick={() => void addOpen()}>
          Add “{words.trim()}” as an open leg
        </button>
      )}
    </div>
  );
}

const PLACEHOLDER =
  'Customer desk: take the application → application no.\nField crews: survey the site (application no.) → survey no., pipe length';

/** The workshop: a line a leg. What was understood is shown before it is added. */
function Lines({ editor, before }: PlaceProps) {
  const [text, setText] = useState('');
  const read = readWorkshopText(text).map((leg) => ({
    ...leg,
    team: leg.lane === null ? null : findLane(leg.lane, editor.scenario.teams),
  }));
  const add = async () => {
    const edits = read.map(({ lane, title, needs, gives, team }): ScenarioEdit => {
      // A lane that is no team yet is not lost.
      const note = lane !== null && team === null ? `Lane in the workshop: ${lane}` : '';
      const leg = createLeg({ id: crypto.randomUUID(), title: title.slice(0, 200), team: team?.id ?? null, needs, gives, note });
      return { kind: 'add leg', leg, before };
    });
    if (await editor.run(edits)) setText('');
  };
  return (
    <div className="px-4 pb-3">
      <textarea
        className="field"
        rows={7}
        aria-label="Legs, a line each"
        placeholder={PLACEHOLDER}
        value={text}
        onChange={(event) => setText(event.target.value)}
        // eslint-disable-next-line jsx-a11y/no-autofocus -- the panel was opened to type
        autoFocus
      />
      <p className="hint my-1">Lane: what is done (needs) → gives. Lines can be pasted, rows of a spreadsheet too.</p>
      {read.length > 0 && (
        <>
          <ol className="my-2 grid max-h-[240px] gap-1.5 overflow-auto text-[13px]" aria-label="What was understood">
            {read.map(({ lane, title, needs, gives, team }, index) => (
              <li key={index}>
                <b>{title}</b>
                <span className="block text-soft">
                  {team ? team.name : lane === null ? 'no lane' : `“${lane}” is no team yet`}
                  {needs.length > 0 && ` · needs ${needs.map(({ name }) => name).join(', ')}`}
                  {gives.length > 0 && ` · gives ${gives.map(({ name }) => name).join(', ')}`}
                </span>
              </li>
            ))}
          </ol>
          <button type="button" className="button button-primary" onClick={() => void add()}>
            Add {countOf(read.length, 'open leg')}
          </button>
        </>
      )}
    </div>
  );
}
