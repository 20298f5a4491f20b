import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { STATUS_WORDS } from '../../ui/format.ts';

/** Every run as a row of marks, a mark a turn. */
export function RunTable({ cycle }: { readonly cycle: CycleDetail }) {
  const { base } = useProgramme();
  return (
    <div className="card overflow-x-auto px-2">
      <table className="grid-table">
        <thead>
          <tr>
            <th scope="col">Run</th>
            <th scope="col">Scenario</th>
            <th scope="col">Data row</th>
            <th scope="col">Turns</th>
          </tr>
        </thead>
        <tbody>
          {cycle.runs.map((run) => (
            <tr key={run.id}>
              <td className="font-mono text-[13px] text-soft">{run.number}</td>
              <td>
                <a className="hover:underline" href={`${base}/scenarios/${run.scenario.code}?run=${run.id}`}>
                  {run.scenario.name}
                </a>
              </td>
              <td className="text-[13px] text-soft">{run.rowName ?? '–'}</td>
              <td>
                <span className="flex flex-wrap gap-1">
                  {run.turns.map((turn) => (
                    <a
                      key={turn.id}
                      className="flex h-[24px] items-center"
                      href={`${base}/turns/${turn.id}`}
                      title={`${turn.title}: ${STATUS_WORDS[turn.status]} · ${turn.team} · ${turn.assignee ?? 'nobody yet'}`}
                      aria-label={`${turn.title}: ${STATUS_WORDS[turn.status]}`}
                    >
                      <BatonMark status={turn.status} isDecoration />
                    </a>
                  ))}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
