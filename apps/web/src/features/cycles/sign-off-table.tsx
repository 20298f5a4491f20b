import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { getPassShare, getRunShare } from '@kindred-baton/core/progress/tally';
import { BatonBar } from '../../ui/baton-mark.tsx';
import { formatShare } from '../../ui/format.ts';
import { Moment } from '../../ui/moment.tsx';

/** What the process owners decided, with the figures as they stood. */
export function SignOffTable({ cycle }: { readonly cycle: CycleDetail }) {
  return (
    <div className="card overflow-x-auto px-2">
      <table className="grid-table">
        <thead>
          <tr>
            <th scope="col">Node</th>
            <th scope="col">Decision</th>
            <th scope="col">By</th>
            <th scope="col">Figures as they stood</th>
          </tr>
        </thead>
        <tbody>
          {cycle.signOffs.map((signOff) => (
            <tr key={signOff.node.code}>
              <td>
                <b>{signOff.node.name}</b> <span className="font-mono text-[13px] text-soft">{signOff.node.code}</span>
              </td>
              <td>
                {signOff.decision}
                {signOff.reason !== '' && <span className="block text-[13px] text-soft">{signOff.reason}</span>}
              </td>
              <td className="text-[13px]">
                {signOff.by}
                <span className="block text-soft">
                  <Moment at={signOff.at} />
                </span>
              </td>
              <td className="w-[240px]">
                <BatonBar counts={signOff.counts} className="h-[12px]!" />
                <span className="text-[13px] text-soft">
                  {formatShare(getRunShare(signOff.counts))} run, {formatShare(getPassShare(signOff.counts), 1)} passed
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
