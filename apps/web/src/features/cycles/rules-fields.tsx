import { describeExitRule } from '@kindred-baton/core/progress/check-exit';
import type { CycleRules, ExitRule } from '@kindred-baton/core/cycles/rules';
import { EVIDENCE_RULES, FAILURE_PARTS, OPEN_LEG_RULES, RETEST_RULES } from '@kindred-baton/core/cycles/rules';
import { SEVERITIES } from '@kindred-baton/core/defects/defect';
import { REQUIREMENT_KINDS } from '@kindred-baton/core/requirements/requirement';
import type { ReactNode } from 'react';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

const OPEN_LEG_LABELS = {
  refused: 'keep the cycle from opening',
  'left out': 'are left out of their runs',
  'bare turn': 'become bare turns: “do it, say how it went”',
} as const;
const EVIDENCE_LABELS = {
  'each step': 'at each step',
  'failed steps': 'at steps that failed',
  none: 'only if the tester wants to',
} as const;
const PICTURE_LABELS = { 'each step': 'of each step', 'failed steps': 'of steps that failed', none: 'none' } as const;
const FAILURE_LABELS = { words: 'words on what was seen', picture: 'a picture', defect: 'a defect' } as const;

interface RulesFieldsProps {
  readonly rules: CycleRules;
  readonly onChange: (rules: CycleRules) => void;
  readonly isDisabled?: boolean;
}

/** The rules of a cycle; beside each, where it bites. */
export function RulesFields({ rules, onChange, isDisabled = false }: RulesFieldsProps) {
  const set = (change: Partial<CycleRules>) => onChange({ ...rules, ...change });
  return (
    <fieldset disabled={isDisabled} className="@container grid gap-4">
      <legend className="sr-only">Rules</legend>
      <Rule
        title="Versions"
        bites="On opening. Pinned is the newest agreed version of each test, or the older one that a leg stays with; a draft never is."
      >
        <Check isOn={rules.onlyAgreedScenarios} onChange={(on) => set({ onlyAgreedScenarios: on })}>
          Scenarios that are still sketches keep it from opening
        </Check>
      </Rule>
      <Rule title="Legs without an agreed test" bites="On opening, when turns are made.">
        <Options
          name="Legs without an agreed test"
          values={OPEN_LEG_RULES}
          words={OPEN_LEG_LABELS}
          chosen={rules.openLegs}
          onChoose={(openLegs) => set({ openLegs })}
        />
      </Rule>
      <Rule title="Pictures and files are asked for" bites="In the guide: an attempt is finished once they are there.">
        <Options
          name="Pictures and files"
          values={EVIDENCE_RULES}
          words={EVIDENCE_LABELS}
          chosen={rules.evidence}
          onChoose={(evidence) => set({ evidence })}
        />
      </Rule>
      <Rule title="Runners take pictures" bites="When a runner begins a turn. What a failure must carry it takes in any case.">
        <Options
          name="Runners take pictures"
          values={EVIDENCE_RULES}
          words={PICTURE_LABELS}
          chosen={rules.runnerPictures}
          onChoose={(runnerPictures) => set({ runnerPictures })}
        />
      </Rule>
      <Rule title="A failure must carry" bites="In the guide, at the end. Environment, browser and the values used are always noted.">
        {FAILURE_PARTS.map((part) => (
          <Check
            key={part}
            isOn={rules.failure.includes(part)}
            onChange={(on) => set({ failure: on ? [...rules.failure, part] : rules.failure.filter((own) => own !== part) })}
          >
            {FAILURE_LABELS[part]}
          </Check>
        ))}
      </Rule>
      <Rule title="A retest is made by" bites="When a tester begins one.">
        <Options name="A retest is made by" values={RETEST_RULES} chosen={rules.retestBy} onChoose={(retestBy) => set({ retestBy })} />
      </Rule>
      <Rule title="Who records" bites="When somebody begins a turn that is with another.">
        <Check isOn={rules.laneMayRecord} onChange={(on) => set({ laneMayRecord: on })}>
          Testers may record turns of others of their lane
        </Check>
      </Rule>
      <Rule title="Exit criteria" bites="Under Acceptance: each with its figure now, and what keeps it from being met.">
        <ExitRules rules={rules.exit} onChange={(exit) => set({ exit })} />
      </Rule>
    </fieldset>
  );
}

function Rule({ title, bites, children }: { readonly title: string; readonly bites: string; readonly children: ReactNode }) {
  return (
    <div className="grid gap-x-6 gap-y-1 border-b border-line-2 pb-4 last:border-b-0 last:pb-0 @xl:grid-cols-[220px_minmax(0,1fr)]">
      <div>
        <h3 className="font-bold">{title}</h3>
        <p className="hint">{bites}</p>
      </div>
      <div className="grid content-start gap-1">{children}</div>
    </div>
  );
}

function Check({
  isOn,
  onChange,
  children,
}: {
  readonly isOn: boolean;
  readonly onChange: (on: boolean) => void;
  readonly children: ReactNode;
}) {
  return (
    <label className="flex min-h-7 items-center gap-2">
      <input type="checkbox" checked={isOn} onChange={(event) => onChange(event.target.checked)} />
      {children}
    </label>
  );
}

interface OptionsProps<Value extends string> {
  readonly name: string;
  readonly values: readonly Value[];
  readonly words?: Readonly<Record<Value, string>>;
  readonly chosen: Value;
  readonly onChoose: (value: Value) => void;
}

function Options<Value extends string>({ name, values, words, chosen, onChoose }: OptionsProps<Value>) {
  return values.map((value) => (
    <label key={value} className="flex min-h-7 items-center gap-2">
      <input type="radio" name={name} checked={value === chosen} onChange={() => onChoose(value)} />
      {words?.[value] ?? value}
    </label>
  ));
}

const NEW_RULES: readonly { readonly key: string; readonly name: string; readonly rule: ExitRule }[] = [
  { key: 'run', name: 'So much is run', rule: { kind: 'run share', least: 1 } },
  { key: 'pass', name: 'So much of it has passed', rule: { kind: 'pass share', least: 0.95 } },
  { key: 'defects', name: 'No open defect of a severity', rule: { kind: 'open defects', severity: 'slows the business', most: 0 } },
  {
    key: 'requirements',
    name: 'All requirements of a kind are verified',
    rule: { kind: 'requirements verified', requirements: 'acceptance' },
  },
  { key: 'nodes', name: 'Critical nodes are signed off', rule: { kind: 'critical nodes signed off' } },
];

function ExitRules({ rules, onChange }: { readonly rules: readonly ExitRule[]; readonly onChange: (rules: readonly ExitRule[]) => void }) {
  const { viewer } = useProgramme();
  const replace = (index: number, rule: ExitRule) => onChange(rules.map((own, at) => (at === index ? rule : own)));
  return (
    <>
      <ul className="grid gap-1.5">
        {rules.map((rule, index) => (
          <li key={index} className="flex flex-wrap items-center gap-2">
            <span className="min-w-[250px]">{describeExitRule(rule, viewer.programme.severityNames)}</span>
            <ExitRuleFields rule={rule} onChange={(changed) => replace(index, changed)} />
            <button
              type="button"
              className="button button-quiet button-small"
              aria-label={`Remove: ${describeExitRule(rule, viewer.programme.severityNames)}`}
              onClick={() => onChange(rules.filter((_, at) => at !== index))}
            >
              Remove
            </button>
          </li>
        ))}
      </ul>
      <span>
        <MenuButton
          label="Add a criterion"
          isSmall
          choices={NEW_RULES}
          onChoose={(key) => onChange([...rules, ...NEW_RULES.filter((own) => own.key === key).map(({ rule }) => rule)])}
        />
      </span>
    </>
  );
}

function ExitRuleFields({ rule, onChange }: { readonly rule: ExitRule; readonly onChange: (rule: ExitRule) => void }) {
  const { viewer, nameOf } = useProgramme();
  switch (rule.kind) {
    case 'run share':
    case 'pass share':
      return (
        <label className="flex items-center gap-1">
          <input
            type="number"
            className="field w-[80px]!"
            aria-label={`${describeExitRule(rule, viewer.programme.severityNames)}: percent`}
            min={0}
            max={100}
            value={Math.round(rule.least * 1000) / 10}
            onChange={(event) => onChange({ ...rule, least: Math.min(1, Math.max(0, Number(event.target.value) / 100)) })}
          />
          %
        </label>
      );
    case 'open defects':
      return (
        <select
          className="field w-auto!"
          aria-label="Severity"
          value={rule.severity}
          onChange={(event) => onChange({ ...rule, severity: event.target.value as typeof rule.severity })}
        >
          {SEVERITIES.map((severity) => (
            <option key={severity} value={severity}>
              {nameOf(severity)}
            </option>
          ))}
        </select>
      );
    case 'requirements verified':
      return (
        <select
          className="field w-auto!"
          aria-label="Kind of requirement"
          value={rule.requirements}
          onChange={(event) => onChange({ ...rule, requirements: event.target.value as typeof rule.requirements })}
        >
          {REQUIREMENT_KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </select>
      );
    case 'critical nodes signed off':
      return null;
  }
}
