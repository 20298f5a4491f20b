import { useRead } from '../../../client/use-read.ts';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf } from '../../../ui/format.ts';
import { PageTitle } from '../../../ui/page-title.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { useInScope } from '../../frame/use-in-scope.ts';

/** What of the map no scenario reaches: streams that none goes through, activities at which no leg stands. */
export function MapGaps() {
  const { base } = useProgramme();
  const { withScope } = useAddress();
  const inScope = useInScope();
  const { data } = useRead('getMapGaps', {});
  if (!data) return <PageTitle title="Not reached" about="Walking the map …" />;
  const activities = data.activities.filter(({ code }) => inScope(code));
  const streams = data.streams.filter(({ code }) => inScope(code));
  return (
    <>
      <PageTitle
        title="Not reached"
        about={`${countOf(activities.length, 'activity', 'activities')} of ${data.allActivities} in no scenario · ${streams.length === 0 ? 'every stream has one' : `${countOf(streams.length, 'stream')} with none`}`}
      />
      {streams.length > 0 && (
        <p className="mb-3 border-l-[3px] border-l-failed pl-2.5">No scenario goes through {streams.map(({ name }) => name).join(', ')}.</p>
      )}
      <div className="card overflow-x-auto px-2">
        {activities.length === 0 ? (
          <EmptyView title="Every activity is reached">At each activity here stands a leg of some scenario.</EmptyView>
        ) : (
          <table className="grid-table">
            <thead>
              <tr>
                <th scope="col">Code</th>
                <th scope="col">Activity</th>
                <th scope="col">In</th>
                <th scope="col">Tests there</th>
              </tr>
            </thead>
            <tbody>
              {activities.map(({ code, name, path, tests }) => (
                <tr key={code}>
                  <td className="font-mono text-[13px] text-soft">{code}</td>
                  <td>
                    <a className="font-semibold hover:underline" href={withScope(`${base}/map?node=${code}`)}>
                      {name}
                    </a>
                  </td>
                  <td className="text-[13px] text-soft">{path.join(' › ')}</td>
                  <td className="text-[13px]">
                    {tests === 0 ? (
                      <span className="text-soft">none yet</span>
                    ) : (
                      <a className="hover:underline" href={`${base}/tests?scope=${code}`}>
                        {tests}
                      </a>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </>
  );
}
