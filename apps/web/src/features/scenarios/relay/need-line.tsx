import type { RunOverlay, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { NeedSource, WiredNeed, WireSource } from '@kindred-baton/core/scenarios/chain';
import { toWireEdit } from '@kindred-baton/core/scenarios/findings/finding';
import { toNameKey } from '@kindred-baton/core/values/field';
import Pencil from 'lucide-react/icons/pencil';
import { useState } from 'react';
import { BatonChip } from '../../../ui/baton-chip.tsx';
import { listSources, toSourceKey } from '../wiring/list-sources.ts';
import type { DrawnLeg, ScenarioEditor } from '../use-scenario.ts';

interface NeedLineProps {
  readonly editor: ScenarioEditor;
  readonly leg: DrawnLeg;
  readonly need: WiredNeed;
  readonly run: RunOverlay | null;
  readonly row: ScenarioDetail['document']['rows'][number] | null;
}

/** One needed value: where it comes from, what it is in this run or row, and the way to wire it otherwise. */
export function NeedLine({ editor, leg, need, run, row }: NeedLineProps) {
  const [isOpen, setIsOpen] = useState(false);
  return (
    <div className="py-1 text-[13px]">
      <div className="flex flex-wrap items-center justify-between gap-x-2 gap-y-1">
        <span>
          {need.need.name}
          {need.need.required === false && <span className="text-soft"> if any</span>}
        </span>
        <span className="flex min-w-0 items-center gap-1">
          <Source need={need} editor={editor} run={run} row={row} />
          {editor.canEdit && (
            <button
              type="button"
              className="button button-quiet button-small min-h-[24px] px-1!"
              aria-label={`Wire ${need.need.name} otherwise`}
              aria-expanded={isOpen}
              onClick={() => setIsOpen(!isOpen)}
            >
              <Pencil size={13} aria-hidden />
            </button>
          )}
        </span>
      </div>
      {isOpen && <Rewire editor={editor} leg={leg} need={need} onDone={() => setIsOpen(false)} />}
    </div>
  );
}

function Source({ need, editor, run, row }: Omit<NeedLineProps, 'leg'>) {
  const { source } = need;
  if (source.kind === 'leg') {
    const index = editor.legs.findIndex(({ id }) => id === source.leg);
    const value = run?.baton.find((held) => held.index === index && toNameKey(held.name) === toNameKey(source.field.name))?.value;
    const isOther = toNameKey(source.field.name) !== toNameKey(need.need.name);
    return (
      <BatonChip
        name={`from leg ${index + 1}${isOther ? `, ${source.field.name}` : ''}`}
        value={value ?? '…'}
        canCopy={value !== undefined}
      />
    );
  }
  if (source.kind === 'column') {
    const value = row?.values[source.field.name] ?? '';
    return <span className="text-soft">row: {value === '' ? 'empty' : <b className="text-ink">{value}</b>}</span>;
  }
  const isFine = source.kind === 'fixed' || source.kind === 'own' || source.kind === 'new' || need.need.required === false;
  return <span className={isFine ? 'text-soft' : 'font-semibold text-failed'}>{SOURCE_LABELS[source.kind](source as never)}</span>;
}

export const SOURCE_LABELS: {
  readonly [Kind in Exclude<NeedSource['kind'], 'leg' | 'column'>]: (source: Extract<NeedSource, { kind: Kind }>) => string;
} = {
  fixed: ({ value }) => `always ${value}`,
  new: ({ pattern }) => `new ${pattern}`,
  own: ({ value }) => `from the test’s row: ${value}`,
  mismatch: () => 'another type',
  later: () => 'given only later',
  lost: () => 'wire is lost',
  none: () => 'from nowhere',
};

interface RewireProps {
  readonly editor: ScenarioEditor;
  readonly leg: DrawnLeg;
  readonly need: WiredNeed;
  readonly onDone: () => void;
}

/** Wires a need by hand: an earlier output, a column, a fixed value, a new one. */
function Rewire({ editor, leg, need: { need }, onDone }: RewireProps) {
  const wired = editor.chain.legs[leg.index];
  const [typed, setTyped] = useState<'fixed' | 'new' | null>(null);
  if (!wired) return null;
  const groups = listSources(editor.chain, wired, need);
  const set = (from: WireSource | null) => {
    onDone();
    void editor.run([toWireEdit(wired, need, from)]);
  };
  const choose = (key: string) => {
    if (key === 'fixed' || key === 'new') return setTyped(key);
    set([...groups.legs, ...groups.converted, ...groups.columns].find((choice) => choice.key === key)?.from ?? null);
  };
  return (
    <div className="mt-1 grid gap-1">
      <select
        className="field"
        aria-label={`${need.name} comes from`}
        value={typed ?? toSourceKey(wired, need)}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="auto">By its name</option>
        {groups.legs.length > 0 && <Choices label="Earlier legs" choices={groups.legs} />}
        {groups.converted.length > 0 && <Choices label="Earlier legs, converted" choices={groups.converted} />}
        {groups.columns.length > 0 && <Choices label="Columns of the data rows" choices={groups.columns} />}
        <option value="fixed">Always the same value …</option>
        <option value="new">A new value each time …</option>
      </select>
      {typed !== null && (
        <form
          className="flex gap-1"
          onSubmit={(event) => {
            event.preventDefault();
            const text = String(new FormData(event.currentTarget).get('text')).trim();
            if (text !== '') set(typed === 'fixed' ? { kind: 'fixed', value: text } : { kind: 'new', pattern: text });
          }}
        >
          <input
            className="field font-mono"
            name="text"
            aria-label={typed === 'fixed' ? 'The value' : 'Pattern of the new value'}
            placeholder={typed === 'fixed' ? (need.example ?? 'value') : (need.pattern ?? 'AA-9999')}
          />
          <button type="submit" className="button button-small">
            Set
          </button>
        </form>
      )}
    </div>
  );
}

function Choices({
  label,
  choices,
}: {
  readonly label: string;
  readonly choices: readonly { readonly key: string; readonly label: string }[];
}) {
  return (
    <optgroup label={label}>
      {choices.map((choice) => (
        <option key={choice.key} value={choice.key}>
          {choice.label}
        </option>
      ))}
    </optgroup>
  );
}
