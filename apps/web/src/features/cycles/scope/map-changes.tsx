import { useRead } from '../../../client/use-read.ts';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { Moment } from '../../../ui/moment.tsx';
import { FramedTable } from '../../../ui/framed-table.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';

/** What changed on the map since the cycle opened: the cycle’s scope was chosen before that. */
export function MapChanges({ code }: { readonly code: string }) {
  const { base } = useProgramme();
  const { data } = useRead('getMapChanges', { params: { code } });
  if (!data) return <p className="text-soft">Loading …</p>;
  if (data.changes.length === 0) {
    return (
      <div className="card">
        <EmptyView title="The map is as it was">Nothing on it changed since this cycle opened.</EmptyView>
      </div>
    );
  }
  return (
    <FramedTable heads={['Code', 'Node', 'What', 'Changes', 'By', 'When']}>
      {data.changes.map((change, index) => (
        <tr key={index}>
          <td className="font-mono text-[13px]">{change.code}</td>
          <td>
            <a className="hover:underline" href={`${base}/map?node=${encodeURIComponent(change.code)}`}>
              {change.name}
            </a>
          </td>
          <td>{change.action}</td>
          <td className="text-[13px] text-soft">
            {change.details.map(({ field, before, after }) => (
              <span key={field} className="block max-w-[420px] truncate">
                {field}: {before || 'nothing'} → {after || 'nothing'}
              </span>
            ))}
          </td>
          <td className="text-[13px] whitespace-nowrap">{change.by}</td>
          <td className="text-[13px] whitespace-nowrap">
            <Moment at={change.at} />
          </td>
        </tr>
      ))}
    </FramedTable>
  );
}
