import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import type { CycleScope } from '@kindred-baton/contracts/cycles/cycle';
import type { AcceptedNode } from '@kindred-baton/contracts/cycles/acceptance';
import type { CycleRules } from '@kindred-baton/core/cycles/rules';
import { DEFAULT_RULES } from '@kindred-baton/core/cycles/rules';
import { screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { SignForm } from './acceptance/sign-form.tsx';
import { CloseDialog } from './close-dialog.tsx';
import type { Leftover } from './close-dialog.tsx';
import { RulesFields } from './rules-fields.tsx';
import type { Chosen } from './scope/choose-scope.ts';
import { ScopePicker } from './scope/scope-picker.tsx';

describe('the rules of a cycle', () => {
  const open = (rules: CycleRules = DEFAULT_RULES, isDisabled = false) => {
    let now = rules;
    function Form() {
      const [current, setCurrent] = useState(rules);
      now = current;
      return <RulesFields rules={current} onChange={setCurrent} isDisabled={isDisabled} />;
    }
    const opened = openScreen(<Form />);
    opened.show();
    return { ...opened, rules: () => now };
  };

  it('are set one by one, and the others stay', async () => {
    const { user, rules } = open();
    await user.click(screen.getByRole('radio', { name: 'are left out of their runs' }));
    await user.click(screen.getByRole('radio', { name: 'at each step' }));
    const picture = screen.getByRole('checkbox', { name: 'a picture' });
    const had = DEFAULT_RULES.failure.includes('picture');
    await user.click(picture);
    expect(rules()).toMatchObject({ openLegs: 'left out', evidence: 'each step', retestBy: DEFAULT_RULES.retestBy });
    expect(rules().failure.includes('picture')).toBe(!had);
  });

  it('of the end are added, changed and taken away; a share stays between none and all', async () => {
    const { user, rules } = open({ ...DEFAULT_RULES, exit: [{ kind: 'pass share', least: 0.95 }] });
    const percent = screen.getByRole('spinbutton');
    expect(percent).toHaveProperty('value', '95');
    await user.clear(percent);
    await user.type(percent, '250');
    expect(rules().exit).toEqual([{ kind: 'pass share', least: 1 }]);
    await user.click(screen.getByRole('button', { name: 'Add a criterion' }));
    await user.click(await screen.findByRole('menuitem', { name: 'No open defect of a severity' }));
    await user.selectOptions(screen.getByRole('combobox', { name: 'Severity' }), 'stops the business');
    await user.click(screen.getAllByRole('button', { name: /^Remove: / })[0] as HTMLElement);
    expect(rules().exit).toEqual([{ kind: 'open defects', severity: 'stops the business', most: 0 }]);
  });

  it('are only read where they may not be changed', async () => {
    const { user, rules } = open(DEFAULT_RULES, true);
    await user.click(screen.getByRole('radio', { name: 'at each step' }));
    expect(rules()).toBe(DEFAULT_RULES);
  });
});

describe('closing a cycle', () => {
  const run = (number: number, outcome: string, leftTo: string | null = null) => ({
    ...{ id: `run-${number}`, number, outcome, leftTo, rowName: null, scenario: { code: 'S', name: `Scenario ${number}` } },
  });
  const open = async (runs: object[]) => {
    const decided: Leftover[][] = [];
    const cycle = { code: 'ACC-2', name: 'Acceptance 2' } as unknown as CycleDetail;
    const opened = openScreen(<CloseDialog cycle={cycle} onClose={() => {}} onDecide={(left) => decided.push(left)} />);
    opened.server.on('listRunEnds', () => ({ runs }) as never);
    opened.show();
    await screen.findByRole('button', { name: 'Close it' });
    return { ...opened, decided, close: () => screen.getByRole('button', { name: 'Close it' }) };
  };

  it('asks of each run that is not through where it goes; to the next cycle unless said otherwise', async () => {
    const { user, decided, close } = await open([
      run(1, 'passed'),
      run(2, 'failed'),
      run(3, 'not run'),
      run(4, 'failed', 'dropped'),
      run(5, 'skipped'),
    ]);
    expect(screen.getByText(/2 runs are not through: say where each goes\./)).toBeTruthy();
    await user.click(close());
    expect(decided[0]).toEqual([
      { runId: 'run-2', to: 'next cycle', reason: '' },
      { runId: 'run-3', to: 'next cycle', reason: '' },
    ]);
  });

  it('asks why runs are dropped, and keeps the reason with those alone', async () => {
    const { user, decided, close } = await open([run(2, 'failed'), run(3, 'not run')]);
    await user.selectOptions(screen.getByLabelText('Where run 3 goes'), 'dropped');
    expect(close()).toHaveProperty('disabled', true);
    await user.type(screen.getByRole('textbox', { name: /Why 1 run is dropped/ }), '  Out of scope ');
    await user.click(close());
    expect(decided[0]).toEqual([
      { runId: 'run-2', to: 'next cycle', reason: '' },
      { runId: 'run-3', to: 'dropped', reason: 'Out of scope' },
    ]);
  });

  it('of thousands lists some, says how many more there are, and decides on all', async () => {
    const { user, decided, close } = await open(Array.from({ length: 1_250 }, (_, index) => run(index + 1, 'failed')));
    expect(screen.getAllByLabelText(/^Where run \d+ goes$/)).toHaveLength(100);
    expect(screen.getByText(/of the 1,150 that are not listed/)).toBeTruthy();
    await user.click(close());
    expect(decided[0]).toHaveLength(1_250);
  });

  it('sends all one way at once, and back', async () => {
    const { user, decided, close } = await open([run(2, 'failed'), run(3, 'not run')]);
    await user.click(screen.getByRole('button', { name: 'Drop all' }));
    expect(close()).toHaveProperty('disabled', true);
    await user.click(screen.getByRole('button', { name: 'All to the next cycle' }));
    await user.click(close());
    expect(decided[0]?.map(({ to }) => to)).toEqual(['next cycle', 'next cycle']);
  });
});

describe('what goes into a cycle', () => {
  const scenario = (code: string, name: string, legs = 2) => ({
    ...{
      id: code,
      code,
      name,
      state: 'agreed',
      priority: 'high',
      node: { code: 'NS', name: 'New supply' },
      passes: ['NS'],
      requirements: [],
    },
    ...{ legs, openLegs: 0, errors: 0, minutes: 30, rows: ['a', 'b'].map((row) => ({ id: `${code}-${row}`, name: row })) },
  });
  const SCOPE = {
    scenarios: [scenario('S-1', 'Supply'), scenario('S-2', 'Leak'), scenario('S-3', 'Empty', 0)],
    former: [{ code: 'ACC-1', name: 'Acceptance 1' }],
    suggestedCodes: {},
  } as unknown as CycleScope;
  const open = () => {
    let now: Chosen = new Map();
    function Form() {
      const [chosen, setChosen] = useState<Chosen>(new Map());
      now = chosen;
      return <ScopePicker scope={SCOPE} chosen={chosen} onChange={setChosen} />;
    }
    const opened = openScreen(<Form />);
    opened.show();
    return { ...opened, chosen: () => Object.fromEntries([...now].map(([id, rows]) => [id, [...rows]])) };
  };

  it('is chosen by scenarios and rows; one without legs cannot be', async () => {
    const { user, chosen } = open();
    await user.click(screen.getByRole('checkbox', { name: 'Supply' }));
    await user.click(screen.getAllByRole('checkbox', { name: 'b' })[0] as HTMLElement);
    expect(chosen()).toEqual({ 'S-1': ['S-1-a'] });
    expect(screen.getByRole('checkbox', { name: 'Empty' })).toHaveProperty('disabled', true);
  });

  it('keeps what was chosen before when a search takes all that it shows', async () => {
    const { user, chosen } = open();
    await user.click(screen.getByRole('checkbox', { name: 'Supply' }));
    await user.type(screen.getByRole('searchbox', { name: 'Search scenarios' }), 'leak');
    expect(screen.getByText(/1 scenario shown of 3/)).toBeTruthy();
    await user.click(screen.getByRole('checkbox', { name: 'Scenario' }));
    expect(Object.keys(chosen())).toEqual(['S-1', 'S-2']);
    await user.click(screen.getByRole('checkbox', { name: 'Scenario' }));
    expect(Object.keys(chosen())).toEqual(['S-1']);
  });

  it('is drawn a page at a time, and taken in all at once', async () => {
    const many = { ...SCOPE, scenarios: Array.from({ length: 120 }, (_, i) => scenario(`M-${i}`, `Many ${i}`)) } as unknown as CycleScope;
    let now: Chosen = new Map();
    const opened = openScreen(<ScopePicker scope={many} chosen={now} onChange={(chosen) => (now = chosen)} />);
    opened.show();
    expect(screen.queryByRole('checkbox', { name: 'Many 60' })).toBeNull();
    await opened.user.click(screen.getByRole('button', { name: 'Next' }));
    expect(screen.getByRole('checkbox', { name: 'Many 60' })).toBeTruthy();
    expect(screen.getByText('Scenarios 51 to 100 of 120')).toBeTruthy();
    await opened.user.click(screen.getByRole('checkbox', { name: 'Scenario' }));
    expect(now.size).toBe(120);
  });

  it('is taken from a former cycle; that it cannot be looked up is said', async () => {
    const { user, chosen, server } = open();
    server.on('getFormerRuns', () => {
      throw new Refusal('unavailable', 'The database does not answer.');
    });
    const former = screen.getByRole('combobox', { name: 'Take from a former cycle' });
    const option = within(former).getByRole('option', { name: /what failed or was blocked/ });
    await user.selectOptions(former, option);
    expect(await screen.findByText('The database does not answer.')).toBeTruthy();
    server.on('getFormerRuns', () => ({ runs: [{ scenarioId: 'S-2', rowId: 'S-2-a', outcome: 'failed', isLeftToNext: false }] }) as never);
    await user.selectOptions(former, option);
    await waitFor(() => expect(chosen()).toEqual({ 'S-2': ['S-2-a'] }));
  });
});

describe('an owner’s decision', () => {
  const NODE = { code: 'NS', name: 'New supply', counts: { passed: 3 } } as unknown as AcceptedNode;
  const open = () => {
    const opened = openScreen(<SignForm node={NODE} cycle="ACC-2" />);
    opened.server.on('signOffNode', () => ({ done: true }) as never);
    opened.show();
    return opened;
  };

  it('is chosen first; what it stands on is sent along, so that nothing else is signed', async () => {
    const { user, server } = open();
    expect(screen.getByRole('button', { name: 'Choose first' })).toHaveProperty('disabled', true);
    await user.click(screen.getByRole('radio', { name: 'Accept' }));
    await user.type(screen.getByRole('textbox', { name: 'In your words' }), 'Good.');
    await user.click(screen.getByRole('button', { name: 'Accept New supply' }));
    await screen.findByText('New supply: accepted. The figures are kept as they stand.');
    expect(server.calls.at(-1)).toMatchObject({
      ...{
        params: { code: 'ACC-2' },
        input: { node: 'NS', decision: 'accepted', reason: 'Good.', reservations: [], seen: { passed: 3 } },
      },
    });
  });

  it('with reservations names them; refused, it has a reason', async () => {
    const { user, server } = open();
    await user.click(screen.getByRole('radio', { name: 'Accept with reservations' }));
    const [first] = screen.getAllByRole('textbox');
    await user.type(first as HTMLElement, 'Prices are late');
    await user.click(screen.getByRole('button', { name: 'Accept with reservations New supply' }));
    await waitFor(() => expect(server.calls.at(-1)?.input['reservations']).toMatchObject([{ text: 'Prices are late' }]));
    await user.click(screen.getByRole('radio', { name: 'Refuse' }));
    expect(screen.getByRole('textbox', { name: 'Why it is refused' })).toHaveProperty('required', true);
  });

  it('on figures that have changed meanwhile is refused, and the words stay', async () => {
    const { user, server } = open();
    server.on('signOffNode', () => {
      throw new Refusal('conflict', 'The figures have changed since you looked.');
    });
    await user.click(screen.getByRole('radio', { name: 'Accept' }));
    await user.type(screen.getByRole('textbox', { name: 'In your words' }), 'Good.');
    await user.click(screen.getByRole('button', { name: 'Accept New supply' }));
    expect((await screen.findByRole('alert')).textContent).toBe('The figures have changed since you looked.');
    expect(screen.getByRole('textbox', { name: 'In your words' })).toHaveProperty('value', 'Good.');
  });
});
