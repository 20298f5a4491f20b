import type { LegChange } from '@kindred-baton/core/scenarios/edit-scenario';
import type { ReactNode } from 'react';
import { useId } from 'react';
import { useDraft } from '../../../ui/use-draft.ts';
import type { DrawnLeg, ScenarioEditor } from '../use-scenario.ts';

interface LegSettingsProps {
  readonly editor: ScenarioEditor;
  readonly leg: DrawnLeg;
}

/** What may be set of a leg: words, lane, persona, what it waits for, who does it, a note. Closed, it says what is set. */
export function LegSettings({ editor, leg }: LegSettingsProps) {
  const { document } = leg;
  const set = (change: LegChange) => void editor.changeLeg(leg, change);
  const others = editor.legs.filter(({ id }) => id !== leg.id);
  return (
    <details className="border-t border-line-2 px-4 py-3">
      <summary className="cursor-pointer font-bold">
        Order, people, note <span className="font-normal text-soft">{describeSettings(editor, leg)}</span>
      </summary>
      <div className="mt-2 grid gap-2.5">
        <Line label="Words">
          {(id) => (
            <KeptInput
              id={id}
              value={document.title ?? ''}
              placeholder={leg.test?.name ?? ''}
              onKeep={(title) => (title === '' && document.test === null ? undefined : set({ title: title === '' ? null : title }))}
            />
          )}
        </Line>
        <Line label="Lane">
          {(id) => (
            <Select id={id} value={document.team ?? ''} onChange={(team) => set({ team: team || null })}>
              <option value="">{leg.test ? 'The test’s team' : 'No team yet'}</option>
              <Named list={editor.scenario.teams} />
            </Select>
          )}
        </Line>
        <Line label="Persona">
          {(id) => (
            <Select id={id} value={document.persona ?? ''} onChange={(persona) => set({ persona: persona || null })}>
              <option value="">As the steps say</option>
              <Named list={editor.scenario.personas} />
            </Select>
          )}
        </Line>
        <Line label="Waiting days">
          {(id) => (
            <KeptInput
              id={id}
              type="number"
              value={String(document.waitDays)}
              onKeep={(text) => set({ waitDays: Math.max(0, Math.min(366, Math.round(Number(text)) || 0)) })}
            />
          )}
        </Line>
        <Line label="Same person as">
          {(id) => (
            <Select id={id} value={document.samePersonAs ?? ''} onChange={(other) => set({ samePersonAs: other || null })}>
              <option value="">Anybody</option>
              <Legs legs={others} />
            </Select>
          )}
        </Line>
        <After leg={leg} others={others} onChange={(after) => set({ after })} />
        <Legend
          label="Never the same person as"
          legs={others}
          chosen={document.otherPersonThan}
          onChange={(otherPersonThan) => set({ otherPersonThan })}
        />
        <Line label="Note to testers">{(id) => <KeptInput id={id} isLong value={document.note} onKeep={(note) => set({ note })} />}</Line>
      </div>
    </details>
  );
}

function describeSettings(editor: ScenarioEditor, { document }: DrawnLeg): string {
  const numberOf = (id: string) => editor.legs.findIndex((leg) => leg.id === id) + 1;
  const parts = [
    ...(document.after === null
      ? []
      : [document.after.length === 0 ? 'waits for nothing' : `after ${document.after.map(numberOf).join(', ')}`]),
    ...(document.waitDays > 0 ? [`+${document.waitDays} days`] : []),
    ...(document.samePersonAs === null ? [] : [`same person as ${numberOf(document.samePersonAs)}`]),
    ...(document.otherPersonThan.length === 0 ? [] : [`not who does ${document.otherPersonThan.map(numberOf).join(', ')}`]),
  ];
  return parts.join(' · ');
}

function Line({ label, children }: { readonly label: string; readonly children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div className="grid grid-cols-[92px_minmax(0,1fr)] items-center gap-2 text-[13px]">
      <label htmlFor={id} className="text-soft">
        {label}
      </label>
      {children(id)}
    </div>
  );
}

interface KeptInputProps {
  readonly id: string;
  readonly value: string;
  readonly onKeep: (value: string) => void;
  readonly placeholder?: string;
  readonly type?: string;
  readonly isLong?: boolean;
}

function KeptInput({ id, value, onKeep, placeholder, type = 'text', isLong = false }: KeptInputProps) {
  const draft = useDraft(value, onKeep);
  if (isLong) return <textarea id={id} rows={3} className="field" {...draft} />;
  return <input id={id} type={type} placeholder={placeholder} className="field" {...draft} />;
}

interface SelectProps {
  readonly id: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly children: ReactNode;
}

function Select({ id, value, onChange, children }: SelectProps) {
  return (
    <select id={id} className="field" value={value} onChange={(event) => onChange(event.target.value)}>
      {children}
    </select>
  );
}

const Named = ({ list }: { readonly list: readonly { readonly id: string; readonly name: string }[] }) =>
  list.map(({ id, name }) => (
    <option key={id} value={id}>
      {name}
    </option>
  ));

const Legs = ({ legs }: { readonly legs: readonly DrawnLeg[] }) =>
  legs.map(({ id, index, title }) => (
    <option key={id} value={id}>
      {index + 1} {title}
    </option>
  ));

interface AfterProps {
  readonly leg: DrawnLeg;
  readonly others: readonly DrawnLeg[];
  readonly onChange: (after: string[] | null) => void;
}

/** By default a leg waits for the one before it; else for those that are marked. Hand-overs are waited for in any case. */
function After({ leg, others, onChange }: AfterProps) {
  const { after } = leg.document;
  return (
    <div className="grid gap-1 text-[13px]">
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={after === null} onChange={(event) => onChange(event.target.checked ? null : [])} />
        Waits for the leg before it
      </label>
      {after !== null && <Legend label="Waits for" legs={others} chosen={after} onChange={onChange} />}
    </div>
  );
}

interface LegendProps {
  readonly label: string;
  readonly legs: readonly DrawnLeg[];
  readonly chosen: readonly string[];
  readonly onChange: (chosen: string[]) => void;
}

function Legend({ label, legs, chosen, onChange }: LegendProps) {
  return (
    <details className="text-[13px]" open={chosen.length > 0}>
      <summary className="cursor-pointer text-soft">
        {label} {chosen.length > 0 ? '' : '…'}
      </summary>
      <fieldset className="mt-1 max-h-[180px] overflow-auto rounded-control border border-line-2 px-2 py-1">
        <legend className="sr-only">{label}</legend>
        {legs.map(({ id, index, title }) => (
          <label key={id} className="flex min-h-[24px] items-center gap-2">
            <input
              type="checkbox"
              checked={chosen.includes(id)}
              onChange={(event) => onChange(event.target.checked ? [...chosen, id] : chosen.filter((each) => each !== id))}
            />
            <span className="min-w-0 truncate">
              {index + 1} {title}
            </span>
          </label>
        ))}
      </fieldset>
    </details>
  );
}
