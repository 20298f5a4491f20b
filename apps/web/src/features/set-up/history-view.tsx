import { toKey } from '../../client/use-read.ts';
import { call } from '../../client/call.ts';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Choose } from '../../ui/menus/choose.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { Moment } from '../../ui/moment.tsx';
import { FramedTable } from '../../ui/framed-table.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

const SUBJECTS = ['programme', 'node', 'requirement', 'persona', 'test', 'scenario', 'cycle', 'turn', 'attempt', 'defect', 'sign-off'];

/** Who did what, newest first; by person and by what it was done to. */
export function HistoryView({ setUp }: { readonly setUp: SetUp }) {
  const { api } = useProgramme();
  const address = useAddress();
  const person = address.get('person') ?? undefined;
  const subject = address.get('subject') ?? undefined;
  const { data, fetchNextPage, hasNextPage, isFetching } = useInfiniteQuery({
    queryKey: toKey('getHistory', { input: { person, subject } }),
    initialPageParam: 0,
    queryFn: ({ pageParam }) => {
      return call(api, 'getHistory', { input: { person, subject, ...(pageParam ? { before: pageParam } : {}) } });
    },
    getNextPageParam: (page) => (page.hasMore ? page.lines.at(-1)?.id : undefined),
  });
  const lines = data?.pages.flatMap((page) => page.lines) ?? [];
  return (
    <>
      <div className="mb-2 flex flex-wrap gap-2">
        <Choose
          label="Who"
          chosen={person ?? null}
          choices={[{ key: '', name: 'everybody' }, ...setUp.people.map(({ id, name }) => ({ key: id as string, name }))]}
          onChoose={(id) => address.set({ person: id || null })}
        />
        <Choose
          label="What"
          chosen={subject ?? null}
          choices={[{ key: '', name: 'everything' }, ...SUBJECTS.map((key) => ({ key, name: key }))]}
          onChoose={(key) => address.set({ subject: key || null })}
        />
      </div>
      <div className="card">
        {data && lines.length === 0 ? (
          <EmptyView title="Nothing here">Nobody has done anything of the kind.</EmptyView>
        ) : (
          <FramedTable heads={['When', 'Who', 'What', 'Details']} isBare>
            {lines.map((line) => (
              <tr key={line.id}>
                <td className="text-[13px] whitespace-nowrap">
                  <Moment at={line.at} />
                </td>
                <td className="text-[13px] whitespace-nowrap">{line.by ?? 'the program'}</td>
                <td>
                  <span className="tag">{line.subject}</span> {line.name !== '' && <b>{line.name} </b>}
                  {line.action}
                </td>
                <td className="max-w-[520px] truncate text-[13px] text-soft" title={line.details}>
                  {line.details}
                </td>
              </tr>
            ))}
          </FramedTable>
        )}
      </div>
      {hasNextPage && (
        <p className="mt-3">
          <button type="button" className="button" disabled={isFetching} onClick={() => void fetchNextPage()}>
            Show what was before
          </button>
        </p>
      )}
    </>
  );
}
