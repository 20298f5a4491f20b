import type { SinceOpening } from '@kindred-baton/contracts/cycles/cycle';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf } from '../../../ui/format.ts';
import { Moment } from '../../../ui/moment.tsx';
import { useNotice } from '../../../ui/notices.tsx';
import { getJson, sendJson, toMessage } from '../../../ui/request.ts';
import { useProgramme } from '../../frame/programme-context.tsx';
import { MapChanges } from './map-changes.tsx';

/** What changed since the cycle opened: tests, scenarios and the map; each test and scenario can be taken over. */
export function SinceOpeningView({ code, canTake }: { readonly code: string; readonly canTake: boolean }) {
  const { api, base } = useProgramme();
  const client = useQueryClient();
  const notify = useNotice();
  const [busy, setBusy] = useState<string | null>(null);
  const { data } = useQuery({ queryKey: ['cycles', code, 'since'], queryFn: () => getJson<SinceOpening>(`${api}/cycles/${code}/since`) });
  if (!data) return <p className="text-soft">Looking what changed …</p>;
  const take = async (key: string, path: string, body: object, say: (answer: { changed?: number; runs?: number }) => string) => {
    setBusy(key);
    try {
      notify({ kind: 'done', text: say(await sendJson('POST', path, body)) });
      await client.invalidateQueries({ queryKey: ['cycles'] });
    } catch (error) {
      notify({ kind: 'problem', text: toMessage(error) });
    } finally {
      setBusy(null);
    }
  };
  return (
    <div className="grid gap-4">
      <Items title="Tests with a newer version" empty="Every turn is on the newest agreed version of its test." items={data.tests.length}>
        {data.tests.map(({ test, name, pinned, newest, notBegun, begun }) => (
          <Item
            key={test}
            href={`${base}/tests/${test}?view=compare`}
            code={test}
            name={name}
            text={`version ${pinned.join(', ')} here, ${newest} agreed since; ${countOf(notBegun, 'turn')} nobody has begun${begun > 0 ? `, ${begun} begun stay as they are` : ''}`}
            onTake={
              canTake && notBegun > 0
                ? () =>
                    void take(
                      test,
                      `${api}/tests/${test}/newer`,
                      { cycle: code },
                      ({ changed = 0 }) => `${countOf(changed, 'turn')} of ${test} took version ${newest} over.`,
                    )
                : null
            }
            isBusy={busy === test}
          />
        ))}
      </Items>
      <Items title="Scenarios that were changed" empty="No scenario of this cycle was changed." items={data.scenarios.length}>
        {data.scenarios.map(({ scenario, name, at, by, notBegun, begun }) => (
          <Item
            key={scenario}
            href={`${base}/scenarios/${scenario}?view=compare`}
            code={scenario}
            name={name}
            text={
              <>
                changed by {by ?? 'the program'}, <Moment at={at} />; {countOf(notBegun, 'run')} nobody has begun
                {begun > 0 ? `, ${begun} begun stay as they are` : ''}
              </>
            }
            onTake={
              canTake && notBegun > 0
                ? () =>
                    void take(
                      scenario,
                      `${api}/cycles/${code}/scenarios`,
                      { scenario },
                      ({ runs = 0 }) => `${countOf(runs, 'run')} made anew from ${scenario}.`,
                    )
                : null
            }
            isBusy={busy === scenario}
          />
        ))}
      </Items>
      <section>
        <h2 className="mb-2">On the map</h2>
        <MapChanges code={code} />
      </section>
    </div>
  );
}

function Items({
  title,
  empty,
  items,
  children,
}: {
  readonly title: string;
  readonly empty: string;
  readonly items: number;
  readonly children: React.ReactNode;
}) {
  return (
    <section className="card">
      <h2 className="border-b border-line-2 px-4 py-2.5">{title}</h2>
      {items === 0 ? <EmptyView title={empty} /> : <ul className="px-4">{children}</ul>}
    </section>
  );
}

interface ItemProps {
  readonly href: string;
  readonly code: string;
  readonly name: string;
  readonly text: React.ReactNode;
  readonly onTake: (() => void) | null;
  readonly isBusy: boolean;
}

function Item({ href, code, name, text, onTake, isBusy }: ItemProps) {
  return (
    <li className="flex items-center justify-between gap-4 border-b border-line-2 py-2.5 last:border-b-0">
      <span className="min-w-0">
        <a className="font-semibold hover:underline" href={href}>
          <span className="mr-2 font-mono text-[13px] font-normal text-soft">{code}</span>
          {name}
        </a>
        <span className="block text-[13px] text-soft">{text}</span>
      </span>
      {onTake && (
        <button type="button" className="button button-small" aria-label={`Take over ${code}`} disabled={isBusy} onClick={onTake}>
          {isBusy ? 'Taking over …' : 'Take over'}
        </button>
      )}
    </li>
  );
}
