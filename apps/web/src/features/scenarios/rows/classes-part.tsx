import type { MadeRows } from '@kindred-baton/core/rows/make-rows';
import type { ClassSetup, Combination, RowClass } from '@kindred-baton/core/rows/row-model';
import Trash2 from 'lucide-react/icons/trash-2';
import { useState } from 'react';
import { countOf } from '../../../ui/format.ts';
import { useDraft } from '../../../ui/use-draft.ts';
import { createSetup, parseClasses, printClasses, printCombination, setClasses, switchClass, toRowEdits, toUsed } from './class-setup.ts';
import { useMakeRows } from './use-make-rows.ts';
import type { ScenarioEditor } from '../use-scenario.ts';

const SEED = 1;

/** Rows from classes: every pair (or triple) of classes meets in a row; the size stands beside its lower bound. */
export function ClassesPart({ editor }: { readonly editor: ScenarioEditor }) {
  const { columns, rows, classes } = editor.scenario.document;
  const setup: ClassSetup = classes ?? createSetup(columns, rows);
  const { work, start, stop } = useMakeRows();
  const [keepsOthers, setKeepsOthers] = useState(false);
  const keep = (next: ClassSetup) => void editor.run([{ kind: 'set classes', classes: next }]);
  const used = toUsed(setup, columns);
  const ran = new Set<string>(editor.scenario.ranRows);
  const stays = rows.filter(({ id }) => keepsOthers || ran.has(id));
  return (
    <section className="card px-4 py-3" aria-label="Rows from classes">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h2>Rows from classes</h2>
        <label className="flex items-center gap-2 text-[13px]">
          Let meet
          <select
            className="field w-auto!"
            value={setup.strength}
            onChange={(event) => keep({ ...setup, strength: event.target.value === '3' ? 3 : 2 })}
          >
            <option value={2}>every pair</option>
            <option value={3}>every triple</option>
          </select>
        </label>
        {rows.length > ran.size && (
          <label className="flex items-center gap-2 text-[13px]">
            <input type="checkbox" checked={keepsOthers} onChange={(event) => setKeepsOthers(event.target.checked)} />
            Keep the {countOf(rows.length - ran.size, 'row')} that {rows.length - ran.size === 1 ? 'has' : 'have'} not run
          </label>
        )}
        {work.state === 'working' ? (
          <button type="button" className="button ml-auto" onClick={stop}>
            Stop
          </button>
        ) : (
          <button
            type="button"
            className="button button-primary ml-auto"
            onClick={() => start({ setup: used, stays: stays.map(({ values }) => values), seed: SEED })}
          >
            Make rows
          </button>
        )}
      </div>
      {work.state === 'working' && (
        <Progress covered={work.progress?.covered ?? 0} total={work.progress?.total ?? 0} rows={work.progress?.rows ?? 0} />
      )}
      {work.state === 'done' && (
        <Made
          made={work.made}
          strength={used.strength}
          stays={stays.length}
          onTake={(made) => {
            stop();
            void editor.run(toRowEdits(made.rows, rows, new Set(stays.map(({ id }) => id)), () => crypto.randomUUID()));
          }}
        />
      )}
      <p className="hint mt-2">With commas between them. A row tries one invalid class at most; what must be there comes first.</p>
      <ClassList columns={columns} setup={setup} onKeep={keep} />
      <div className="mt-3 grid gap-4 md:grid-cols-2">
        <Combinations title="Never together" setup={used} list={setup.forbidden} onChange={(forbidden) => keep({ ...setup, forbidden })} />
        <Combinations title="Must be there" setup={used} list={setup.mustHave} onChange={(mustHave) => keep({ ...setup, mustHave })} />
      </div>
    </section>
  );
}

interface ClassesInputProps {
  readonly name: string;
  readonly text: string;
  readonly onKeep: (typed: string) => void;
}

function ClassesInput({ name, text, onKeep }: ClassesInputProps) {
  return (
    <input
      className="field font-mono text-[13px]"
      aria-label={`Classes of ${name}`}
      placeholder="takes no part"
      {...useDraft(text, onKeep)}
    />
  );
}

function Progress({ covered, total, rows }: { readonly covered: number; readonly total: number; readonly rows: number }) {
  return (
    <p className="mt-2 flex items-center gap-3 text-[13px]" role="status">
      <progress className="h-[8px] flex-1" value={covered} max={Math.max(1, total)} aria-label="Combinations that have met" />
      {total === 0 ? 'Counting …' : `${countOf(rows, 'row')}, ${Math.floor((100 * covered) / total)} % have met`}
    </p>
  );
}

interface MadeProps {
  readonly made: MadeRows;
  readonly strength: ClassSetup['strength'];
  readonly stays: number;
  readonly onTake: (made: Extract<MadeRows, { ok: true }>) => void;
}

function Made({ made, strength, stays, onTake }: MadeProps) {
  if (!made.ok)
    return (
      <p role="alert" className="mt-2 font-semibold text-failed">
        {made.message}
      </p>
    );
  const fresh = made.rows.length - stays;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3 rounded-control bg-band px-3 py-2" role="status">
      <span>
        <b>{countOf(made.rows.length, 'row')}</b> let all {made.tuples.toLocaleString('en')} {strength === 2 ? 'pairs' : 'triples'} meet;
        fewer than {made.lowerBound} cannot.{' '}
        <span className="text-soft">
          All combinations would be {made.combinations.toLocaleString('en')}.
          {stays > 0 && ` ${countOf(stays, 'row')} stay${stays === 1 ? 's' : ''}.`}
        </span>
      </span>
      <button type="button" className="button button-primary ml-auto" onClick={() => onTake(made)}>
        Take the {countOf(fresh, 'new row')}
      </button>
    </div>
  );
}

interface CombinationsProps {
  readonly title: string;
  readonly setup: ClassSetup;
  readonly list: readonly Combination[];
  readonly onChange: (list: Combination[]) => void;
}

/** Combinations of two classes, or more by adding to the last one. */
function Combinations({ title, setup, list, onChange }: CombinationsProps) {
  const [chosen, setChosen] = useState<Combination>({});
  const count = Object.keys(chosen).length;
  return (
    <section aria-label={title}>
      <h3 className="mb-1 text-[13px] font-bold">{title}</h3>
      <ul className="grid gap-1 text-[13px]">
        {list.map((combination, index) => (
          <li key={printCombination(combination)} className="flex items-center justify-between gap-2">
            {printCombination(combination)}
            <button
              type="button"
              className="button button-quiet button-small min-h-[24px]"
              aria-label={`Take out ${printCombination(combination)}`}
              onClick={() => onChange(list.filter((_, at) => at !== index))}
            >
              <Trash2 size={13} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex gap-1">
        <select
          className="field text-[13px]"
          aria-label={`${title}: a class`}
          value=""
          onChange={(event) => {
            const [name = '', value = ''] = event.target.value.split('\u0001');
            if (name !== '') setChosen({ ...chosen, [name]: value });
          }}
        >
          <option value="">{count === 0 ? 'Choose a class …' : `${printCombination(chosen)} and …`}</option>
          {setup.columns
            .filter(({ name }) => !(name in chosen))
            .map(({ name, classes }) => (
              <optgroup key={name} label={name}>
                {classes.map(({ value }) => (
                  <option key={value} value={`${name}\u0001${value}`}>
                    {name} {value}
                  </option>
                ))}
              </optgroup>
            ))}
        </select>
        <button
          type="button"
          className="button button-small flex-none"
          disabled={count === 0}
          onClick={() => {
            onChange([...list, chosen]);
            setChosen({});
          }}
        >
          Add
        </button>
      </div>
    </section>
  );
}

interface ClassSwitchesProps {
  readonly column: string;
  readonly classes: readonly RowClass[];
  readonly onKeep: (classes: RowClass[]) => void;
}

const SWITCHES = [
  { kind: 'invalid', name: 'invalid' },
  { kind: 'must-have', name: 'must' },
] as const;

/** What each class is meant as, besides one value among others. */
function ClassSwitches({ column, classes, onKeep }: ClassSwitchesProps) {
  return (
    <div className="mt-1 flex flex-wrap gap-x-3 gap-y-1">
      {classes.map(({ value, kind }) => (
        <span key={value} className="flex items-center gap-1">
          <span className="font-mono">{value}</span>
          {SWITCHES.map((each) => (
            <button
              key={each.kind}
              type="button"
              className={`min-h-[24px] rounded-control border px-1.5 text-[12px] ${kind === each.kind ? 'border-ink bg-band font-bold' : 'border-transparent text-soft hover:border-line'}`}
              aria-pressed={kind === each.kind}
              aria-label={`${column} ${value} ${each.name}`}
              onClick={() => onKeep(switchClass(classes, value, each.kind))}
            >
              {each.name}
            </button>
          ))}
        </span>
      ))}
    </div>
  );
}

interface ClassListProps {
  readonly columns: ScenarioEditor['scenario']['document']['columns'];
  readonly setup: ClassSetup;
  readonly onKeep: (setup: ClassSetup) => void;
}

/** The classes of each column. */
function ClassList({ columns, setup, onKeep }: ClassListProps) {
  return (
    <dl className="mt-2 grid gap-1.5">
      {columns.map(({ name }) => {
        const own = setup.columns.find((column) => column.name === name)?.classes ?? [];
        const text = printClasses(own);
        return (
          <div key={name} className="grid grid-cols-[160px_minmax(0,1fr)_40px] items-start gap-2 text-[13px]">
            <dt className="pt-1.5">{name}</dt>
            <dd>
              <ClassesInput name={name} text={text} onKeep={(typed) => onKeep(setClasses(setup, name, parseClasses(typed, own)))} />
              <ClassSwitches column={name} classes={own} onKeep={(classes) => onKeep(setClasses(setup, name, classes))} />
            </dd>
            <dd className="pt-1.5 text-right text-soft">{own.length === 0 ? '–' : own.length}</dd>
          </div>
        );
      })}
    </dl>
  );
}
