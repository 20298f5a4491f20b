import { useRead } from '../../../client/use-read.ts';
import type { FoundChainView } from '@kindred-baton/contracts/scenarios/reuse';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import { toNameKey } from '@kindred-baton/core/values/field';
import { keepPreviousData } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf, formatMinutes } from '../../../ui/format.ts';
import { PageTitle } from '../../../ui/page-title.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { NewScenarioDialog } from '../new-scenario-dialog.tsx';

type Chain = NonNullable<FoundChainView['chain']>;

/** From a goal, a value or a test, the cheapest chain of tests that reaches it. */
export function ChainFinder() {
  const { can } = useProgramme();
  const address = useAddress();
  const [goal, have] = [address.get('goal') ?? '', address.get('have') ?? ''];
  const isTest = address.get('kind') === 'test';
  const input = { ...(goal === '' ? {} : { [isTest ? 'test' : 'value']: goal }), have };
  const { data, error, isPlaceholderData } = useRead('findChain', { input }, { placeholderData: keepPreviousData, retry: false });
  const [isTaking, setIsTaking] = useState(false);
  const chain = goal === '' ? null : (data?.chain ?? null);
  return (
    <>
      <PageTitle
        title="Find a chain"
        about={
          chain
            ? `${countOf(chain.legs.length, 'test')}, ${formatMinutes(chain.minutes)} of work${chain.isCheapest ? ', and none is cheaper' : ''}`
            : 'The cheapest tests, in order, that reach a goal'
        }
      >
        {chain && can('edit scenarios') && (
          <button type="button" className="button button-primary" onClick={() => setIsTaking(true)}>
            Take it over as a sketch
          </button>
        )}
      </PageTitle>
      <GoalForm values={data?.values ?? []} tests={data?.tests ?? []} />
      <div className={isPlaceholderData ? 'opacity-70' : ''}>
        {goal === '' ? (
          <div className="card">
            <EmptyView title="What should be reached?">
              Name a value, such as a receipt number, or a test. What is there already can be named too.
            </EmptyView>
          </div>
        ) : chain ? (
          <Found chain={chain} />
        ) : (
          data && (
            <div className="card">
              <EmptyView title={error ? 'That is not a goal' : isTest ? 'There is no such test' : `No test gives ${goal}`}>
                {isTest ? 'Choose one of the list.' : 'Choose a value of the list, or write a test that gives it.'}
              </EmptyView>
            </div>
          )
        )}
      </div>
      <NewScenarioDialog isOpen={isTaking} onClose={() => setIsTaking(false)} {...(chain ? { edits: toEdits(chain) } : {})} />
    </>
  );
}

/** The sketch: a leg for each test, a column for what nothing gives. */
function toEdits(chain: Chain): ScenarioEdit[] {
  return [
    ...chain.missing.map(({ need }): ScenarioEdit => ({ kind: 'add column', column: need, before: null })),
    ...chain.legs.map(({ test }): ScenarioEdit => ({
      kind: 'add leg',
      leg: createLeg({ id: crypto.randomUUID(), test: test.code }),
      before: null,
    })),
  ];
}

function GoalForm({ values, tests }: Pick<FoundChainView, 'values' | 'tests'>) {
  const address = useAddress();
  const ids = { values: useId(), tests: useId(), goal: useId(), have: useId() };
  const goal = address.get('goal') ?? '';
  const submit = (form: FormData) => {
    const typed = String(form.get('goal')).trim();
    const test = tests.find(({ code, name }) => code === typed || toNameKey(`${code} ${name}`) === toNameKey(typed));
    const have = String(form.get('have'))
      .split(',')
      .flatMap((name) => (name.trim() === '' ? [] : [name.trim()]));
    address.set({
      goal: typed === '' ? null : (test?.code ?? typed),
      kind: test ? 'test' : null,
      have: have.length === 0 ? null : have.join('|'),
    });
  };
  return (
    <form
      className="card mb-4 grid gap-3 px-4 py-3 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] sm:items-end"
      onSubmit={(event) => {
        event.preventDefault();
        submit(new FormData(event.currentTarget));
      }}
    >
      <div>
        <label className="label" htmlFor={ids.goal}>
          A value or a test to reach
        </label>
        <input key={goal} id={ids.goal} name="goal" className="field" list={ids.values} defaultValue={goal} placeholder="Receipt no." />
        <datalist id={ids.values}>
          {values.map((name) => (
            <option key={name} value={name} />
          ))}
          {tests.slice(0, 2_000).map(({ code, name }) => (
            <option key={code} value={`${code} ${name}`} />
          ))}
        </datalist>
      </div>
      <div>
        <label className="label" htmlFor={ids.have}>
          What is there already, with commas
        </label>
        <input
          id={ids.have}
          name="have"
          className="field"
          defaultValue={(address.get('have') ?? '').split('|').filter(Boolean).join(', ')}
          placeholder="Application no."
        />
      </div>
      <button type="submit" className="button button-primary">
        Find
      </button>
    </form>
  );
}

function Found({ chain }: { readonly chain: Chain }) {
  const { base } = useProgramme();
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_320px]">
      <section className="card min-w-0 overflow-x-auto px-2" aria-label="The chain">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">Leg</th>
              <th scope="col">Test</th>
              <th scope="col">Team</th>
              <th scope="col">Minutes</th>
              <th scope="col">Why it is in the chain</th>
            </tr>
          </thead>
          <tbody>
            {chain.legs.map(({ test, gives }, index) => (
              <tr key={test.code}>
                <td>{index + 1}</td>
                <td>
                  <a className="font-semibold hover:underline" href={`${base}/tests/${test.code}`}>
                    {test.name}
                  </a>{' '}
                  <span className="font-mono text-[12px] text-soft">{test.code}</span>
                </td>
                <td className="text-[13px] text-soft">
                  {test.team}
                  {test.stream !== null && chain.otherStreams.includes(test.stream) && <span className="block">from {test.stream}</span>}
                </td>
                <td className="tabular-nums">{test.minutes}</td>
                <td className="text-[13px]">
                  {gives.length === 0 ? 'the goal' : gives.map(({ value, to }) => `gives ${value} to ${to}`).join(', ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section className="card self-start px-4 py-3" aria-label="What no test of the chain gives">
        <h2 className="mb-2 text-[15px]">{chain.missing.length === 0 ? 'Everything is given' : 'From the data rows'}</h2>
        <ul className="grid gap-2 text-[13px]">
          {chain.missing.map(({ need, neededBy, why, own }) => (
            <li key={need.name}>
              <b>{need.name}</b> <span className="text-soft">for {neededBy.join(', ')}</span>
              <span className="block text-soft">
                {why === 'nothing gives it' ? 'no test gives it' : 'whatever gives it needs it first'}
                {own !== null && `; the test’s own row has ${own}`}
              </span>
            </li>
          ))}
        </ul>
        {chain.otherStreams.length > 0 && (
          <p className="mt-2 text-[13px]">It leaves the stream: some of it comes from {chain.otherStreams.join(', ')}.</p>
        )}
        {!chain.isCheapest && (
          <p className="hint mt-2">
            {chain.missing.some(({ own }) => own === null)
              ? 'It is not called the cheapest while a value comes from nowhere.'
              : 'It is not proved that no other chain is cheaper.'}
          </p>
        )}
      </section>
    </div>
  );
}
