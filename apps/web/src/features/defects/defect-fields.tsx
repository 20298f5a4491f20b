import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import type { ChangeDefect, DefectDetail } from '@kindred-baton/contracts/defects/defect';
import { DEFECT_KINDS, DEFECT_LINK_KINDS, SEVERITIES } from '@kindred-baton/core/defects/defect';
import { PRIORITIES } from '@kindred-baton/core/values/priority';
import { formatDay } from '../../ui/format.ts';
import { PanelPart } from '../../ui/side-panel.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** What a defect is: team, assignee, due day, kind, severity, priority, links. Each is kept as soon as it is chosen. */
export function DefectFields({ defect }: { readonly defect: DefectDetail }) {
  const { can, nameOf, viewer } = useProgramme();
  const { act } = useChanges();
  const canChange = can('move defects') || defect.assigneeId === viewer.person.id;
  const { data: choices } = useRead('getChoices', {}, { enabled: canChange });
  const change = (part: ChangeDefect) => act('changeDefect', { params: { code: defect.code }, input: part });
  if (!canChange || !choices)
    return (
      <PanelPart title="With">
        <p className="text-[13px]">
          {defect.assignee ?? 'nobody'} · {defect.team ?? 'no team'}
          {defect.dueOn !== null && ` · due ${formatDay(defect.dueOn)}`}
        </p>
        <Links defect={defect} onChange={null} />
      </PanelPart>
    );
  return (
    <PanelPart title="With">
      <div className="grid grid-cols-[80px_1fr] items-center gap-x-2 gap-y-1.5 text-[13px]">
        <Select
          label="Assignee"
          value={defect.assigneeId ?? ''}
          options={choices.people}
          none="nobody"
          onChange={(id) => void change({ assigneeId: (id || null) as ChangeDefect['assigneeId'] })}
        />
        <Select
          label="Team"
          value={defect.teamId ?? ''}
          options={choices.teams}
          none="no team"
          onChange={(id) => void change({ teamId: (id || null) as ChangeDefect['teamId'] })}
        />
        <label htmlFor="defect-due">Due</label>
        <input
          id="defect-due"
          type="date"
          className="field"
          value={defect.dueOn ?? ''}
          onChange={(event) => void change({ dueOn: event.target.value || null })}
        />
        <Words label="Kind" value={defect.kind} options={DEFECT_KINDS} onChange={(kind) => void change({ kind })} />
        <Words
          label="Severity"
          value={defect.severity}
          options={SEVERITIES}
          nameOf={nameOf}
          onChange={(severity) => void change({ severity })}
        />
        <Words label="Priority" value={defect.priority} options={PRIORITIES} onChange={(priority) => void change({ priority })} />
      </div>
      <Links defect={defect} onChange={(links) => void change({ links })} />
    </PanelPart>
  );
}

interface SelectProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly { readonly id: string; readonly name: string }[];
  readonly none: string;
  readonly onChange: (id: string) => void;
}

function Select({ label, value, options, none, onChange }: SelectProps) {
  const id = `defect-${label.toLowerCase()}`;
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <select id={id} className="field" value={value} onChange={(event) => onChange(event.target.value)}>
        <option value="">{none}</option>
        {options.map((option) => (
          <option key={option.id} value={option.id}>
            {option.name}
          </option>
        ))}
      </select>
    </>
  );
}

interface WordsProps<Word extends string> {
  readonly label: string;
  readonly value: Word;
  readonly options: readonly Word[];
  readonly nameOf?: (word: Word) => string;
  readonly onChange: (word: Word) => void;
}

function Words<Word extends string>({ label, value, options, nameOf = String, onChange }: WordsProps<Word>) {
  const id = `defect-${label.toLowerCase()}`;
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <select id={id} className="field" value={value} onChange={(event) => onChange(event.target.value as Word)}>
        {options.map((option) => (
          <option key={option} value={option}>
            {nameOf(option)}
          </option>
        ))}
      </select>
    </>
  );
}

function Links({
  defect,
  onChange,
}: {
  readonly defect: DefectDetail;
  readonly onChange: ((links: DefectDetail['links']) => void) | null;
}) {
  const { base } = useProgramme();
  return (
    <div className="mt-2 text-[13px]">
      <ul className="grid gap-1">
        {defect.links.map(({ kind, to }, index) => (
          <li key={kind + to} className="flex items-center justify-between gap-2">
            <span className="min-w-0 truncate">
              <span className="text-soft">{kind} </span>
              <a className="underline" href={kind === 'tracked at' ? to : `${base}/defects/${to}`}>
                {to}
              </a>
            </span>
            {onChange && (
              <button
                type="button"
                className="button button-quiet button-small"
                aria-label={`Remove link to ${to}`}
                onClick={() => onChange(defect.links.filter((_, at) => at !== index))}
              >
                Remove
              </button>
            )}
          </li>
        ))}
      </ul>
      {onChange && (
        <form
          className="mt-1.5 grid grid-cols-[110px_1fr_auto] gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            const form = event.currentTarget;
            const values = new FormData(form);
            onChange([
              ...defect.links,
              { kind: String(values.get('kind')) as (typeof DEFECT_LINK_KINDS)[number], to: String(values.get('to')).trim() },
            ]);
            form.reset();
          }}
        >
          <select name="kind" className="field" aria-label="Kind of link">
            {DEFECT_LINK_KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </select>
          <input name="to" className="field" aria-label="Linked to" required placeholder="Code or address" />
          <button type="submit" className="button button-small">
            Link
          </button>
        </form>
      )}
    </div>
  );
}
