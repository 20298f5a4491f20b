import type { CycleScope } from '@kindred-baton/contracts/cycles/cycle';
import { useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { formatMinutes } from '../../../ui/format.ts';
import { Pages } from '../../../ui/pages.tsx';
import type { Chosen } from './choose-scope.ts';
import { areAllIn, chooseRow, chooseScenarios } from './choose-scope.ts';

type Scenario = CycleScope['scenarios'][number];

interface ScopeTableProps {
  readonly scenarios: readonly Scenario[];
  readonly chosen: Chosen;
  readonly onChange: (chosen: Chosen) => void;
}

const SHOWN = 50;

/** Which scenarios go in, and with which data rows: one run each. So many are drawn at a time; the box at the head takes all of them. */
export function ScopeTable({ scenarios, chosen, onChange }: ScopeTableProps) {
  const [wanted, setFrom] = useState(0);
  // Where a branch of the strip leaves fewer, the last page is shown.
  const from = Math.min(wanted, Math.max(0, Math.ceil(scenarios.length / SHOWN) - 1) * SHOWN);
  const shown = scenarios.slice(from, from + SHOWN);
  if (scenarios.length === 0)
    return (
      <div className="card">
        <EmptyView title="No scenarios here">Draw one first; a cycle is made of scenarios and their data rows.</EmptyView>
      </div>
    );
  return (
    <>
      <div className="card overflow-x-auto px-2">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    checked={areAllIn(chosen, scenarios)}
                    onChange={(event) => onChange(chooseScenarios(chosen, scenarios, event.target.checked))}
                  />{' '}
                  Scenario
                </label>
              </th>
              <th scope="col">Legs</th>
              <th scope="col">Work a run</th>
              <th scope="col">Data rows</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((scenario) => (
              <ScopeRow
                key={scenario.id}
                scenario={scenario}
                rows={chosen.get(scenario.id)}
                onScenario={(isIn) => onChange(chooseScenarios(chosen, [scenario], isIn))}
                onRow={(row, isIn) => onChange(chooseRow(chosen, scenario.id, row, isIn))}
              />
            ))}
          </tbody>
        </table>
      </div>
      <Pages
        {...{ noun: 'Scenarios', from, to: from + shown.length - 1, size: scenarios.length }}
        onBefore={() => setFrom(from - SHOWN)}
        onNext={() => setFrom(from + SHOWN)}
      />
    </>
  );
}

interface ScopeRowProps {
  readonly scenario: Scenario;
  /** The chosen data rows; undefined: the scenario is not in. */
  readonly rows: ReadonlySet<string> | undefined;
  readonly onScenario: (isIn: boolean) => void;
  readonly onRow: (row: string, isIn: boolean) => void;
}

function ScopeRow({ scenario, rows, onScenario, onRow }: ScopeRowProps) {
  return (
    <tr>
      <td>
        <label className="flex items-start gap-2">
          <input
            type="checkbox"
            aria-label={scenario.name}
            className="mt-1"
            checked={rows !== undefined}
            disabled={scenario.legs === 0}
            onChange={(event) => onScenario(event.target.checked)}
          />
          <span>
            <b>{scenario.name}</b>
            <span className="block text-[13px] text-soft">
              {scenario.isSingleTest && 'single test · '}
              <span className="font-mono">{scenario.code}</span> · {scenario.node.name}
              {scenario.openLegs > 0 && <span className="text-failed"> · {scenario.openLegs} open</span>}
              {scenario.errors > 0 && <span className="text-failed"> · {scenario.errors} to fix</span>}
            </span>
          </span>
        </label>
      </td>
      <td>{scenario.legs}</td>
      <td className="whitespace-nowrap">{formatMinutes(scenario.minutes)}</td>
      <td>
        <div className="flex max-w-[460px] flex-wrap gap-x-4 gap-y-0.5 text-[13px]">
          {scenario.rows.length === 0 && <span className="text-soft">none: one run</span>}
          {scenario.rows.map((row) => (
            <label key={row.id} className="flex min-h-[24px] items-center gap-1.5">
              <input type="checkbox" checked={rows?.has(row.id) ?? false} onChange={(event) => onRow(row.id, event.target.checked)} />{' '}
              {row.name}
            </label>
          ))}
        </div>
      </td>
    </tr>
  );
}
