import { call } from '../../../client/call.ts';
import { toMessage } from '../../../client/request.ts';
import type { CycleScope, FormerRuns } from '@kindred-baton/contracts/cycles/cycle';
import { useState } from 'react';
import { countOf } from '../../../ui/format.ts';
import { useNotice } from '../../../ui/notices.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { useInScope } from '../../frame/use-in-scope.ts';
import { chooseFormer, chooseScenarios, filterScenarios, NO_FILTER } from './choose-scope.ts';
import type { Chosen, FormerPart, ScopeFilter } from './choose-scope.ts';
import { SingleTestChoice } from './single-test-choice.tsx';
import { ScopeTable } from './scope-table.tsx';

interface ScopePickerProps {
  readonly scope: CycleScope;
  readonly chosen: Chosen;
  readonly onChange: (chosen: Chosen) => void;
}

const FORMER_LABELS: Readonly<Record<FormerPart, string>> = {
  failed: 'what failed or was blocked',
  'not run': 'what was not run, or was left to the next',
  all: 'all of it',
};

/** What goes into a cycle: by a block of the map, by state, priority or requirement, or from a former cycle. */
export function ScopePicker({ scope, chosen, onChange }: ScopePickerProps) {
  const inScope = useInScope();
  const [filter, setFilter] = useState<ScopeFilter>(NO_FILTER);
  const shown = filterScenarios(scope.scenarios, filter, (scenario) => scenario.passes.some(inScope));
  const requirements = [...new Set(scope.scenarios.flatMap((scenario) => scenario.requirements))].sort();
  const set = (change: Partial<ScopeFilter>) => setFilter({ ...filter, ...change });
  return (
    <div className="min-w-0">
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <input
          type="search"
          className="field max-w-[200px]"
          aria-label="Search scenarios"
          placeholder="Code or words"
          value={filter.words}
          onChange={(event) => set({ words: event.target.value })}
        />
        <Select label="State" value={filter.state} onChange={(state) => set({ state })} options={['agreed', 'sketch']} />
        <Select label="Priority" value={filter.priority} onChange={(priority) => set({ priority })} options={['high', 'medium', 'low']} />
        <Select label="Requirement" value={filter.requirement} onChange={(requirement) => set({ requirement })} options={requirements} />
        <SingleTestChoice onChoose={(test) => onChange(chooseScenarios(chosen, [test], true))} />
        <FormerChoice former={scope.former} onChoose={(runs, part) => onChange(chooseFormer(scope.scenarios, runs, part))} />
      </div>
      <p className="mb-2 text-[13px] text-soft">
        {countOf(shown.length, 'scenario')} shown of {scope.scenarios.length}. A block of the strip above narrows them to those that pass
        it.
      </p>
      <ScopeTable key={JSON.stringify(filter)} scenarios={shown} chosen={chosen} onChange={onChange} />
    </div>
  );
}

interface SelectProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly string[];
  readonly onChange: (value: string) => void;
}

function Select({ label, value, options, onChange }: SelectProps) {
  return (
    <select className="field w-auto! max-w-[170px]" aria-label={label} value={value} onChange={(event) => onChange(event.target.value)}>
      <option value="">Any {label.toLowerCase()}</option>
      {options.map((option) => (
        <option key={option}>{option}</option>
      ))}
    </select>
  );
}

interface FormerChoiceProps {
  readonly former: CycleScope['former'];
  readonly onChoose: (runs: FormerRuns, part: FormerPart) => void;
}

function FormerChoice({ former, onChoose }: FormerChoiceProps) {
  const { api } = useProgramme();
  const notify = useNotice();
  if (former.length === 0) return null;
  const choose = async (code: string, part: FormerPart) => {
    try {
      onChoose(await call(api, 'getFormerRuns', { params: { code } }), part);
    } catch (error) {
      notify({ kind: 'problem', text: toMessage(error) });
    }
  };
  return (
    <select
      className="field w-auto! max-w-[230px]"
      aria-label="Take from a former cycle"
      value=""
      onChange={(event) => {
        const [code = '', part = 'all'] = event.target.value.split('|');
        void choose(code, part as FormerPart);
      }}
    >
      <option value="">Take from a former cycle …</option>
      {former.map(({ code, name }) => (
        <optgroup key={code} label={name}>
          {Object.entries(FORMER_LABELS).map(([part, words]) => (
            <option key={part} value={`${code}|${part}`}>
              {code}: {words}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}
