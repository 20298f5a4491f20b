import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf } from '../../../ui/format.ts';
import { Moment } from '../../../ui/moment.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { MapChanges } from './map-changes.tsx';
import { ScopeChanges } from './scope-changes.tsx';

/** What changed since the cycle opened: its scope and rules, tests, scenarios and the map; each test and scenario can be taken over. */
export function SinceOpeningView({ cycle, canTake }: { readonly cycle: CycleDetail; readonly canTake: boolean }) {
  const { code } = cycle;
  const { base } = useProgramme();
  const { act } = useChanges();
  const [busy, setBusy] = useState<string | null>(null);
  const { data } = useRead('getSinceOpening', { params: { code } });
  if (!data) return <p className="text-soft">Looking what changed …</p>;
  const take = async (key: string, work: () => Promise<unknown>) => {
    setBusy(key);
    await work();
    setBusy(null);
  };
  const takeTest = (test: string, version: number) =>
    take(test, () =>
      act(
        'takeNewerVersion',
        { params: { code: test }, input: { cycle: code } },
        ({ changed }) => `${countOf(changed, 'turn')} of ${test} took version ${version} over.`,
      ),
    );
  const takeScenario = (scenario: string) =>
    take(scenario, () =>
      act('takeScenario', { params: { code }, input: { scenario } }, ({ runs }) => `${countOf(runs, 'run')} made anew from ${scenario}.`),
    );
  return (
    <div className="grid gap-4">
      <ScopeChanges changes={cycle.scopeChanges} empty="Its scope and rules are as they were when it opened." />
      <Items title="Tests with a newer version" empty="Every turn is on the newest agreed version of its test." items={data.tests.length}>
        {data.tests.map(({ test, name, pinned, newest, notBegun, begun }) => (
          <Item
            key={test}
            href={`${base}/tests/${test}?view=compare`}
            code={test}
            name={name}
            text={`version ${pinned.join(', ')} here, ${newest} agreed since; ${countOf(notBegun, 'turn')} nobody has begun${begun > 0 ? `, ${begun} begun stay as they are` : ''}`}
            onTake={canTake && notBegun > 0 ? () => void takeTest(test, newest) : null}
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
            onTake={canTake && notBegun > 0 ? () => void takeScenario(scenario) : null}
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
