import type { DrawnTestView, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { editScenario } from '@kindred-baton/core/scenarios/edit-scenario';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import type { ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import type { Right } from '@kindred-baton/core/programmes/roles';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { RelayPage } from './relay/relay-page.tsx';
import { RowsGrid } from './rows/rows-grid.tsx';
import { useScenario } from './use-scenario.ts';

const test = (code: string, name: string, needs: string[], gives: string[]): DrawnTestView => ({
  ...{ code, name, version: 1, newer: null, state: 'agreed', isRetired: false, steps: 3, minutes: 10, team: null, node: 'NS-1' },
  needs: needs.map((need) => ({ name: need, type: 'text', required: true })),
  gives: gives.map((give) => ({ name: give, type: 'text', required: true })),
  ...{ ownValues: {}, place: null },
});
const DETAIL = {
  ...{ id: 'scenario-1', code: 'NS-S1', name: 'A supply', state: 'agreed', path: [], personas: [], isInOpenCycle: false, runs: [] },
  teams: [
    { id: 'team-a', name: 'Billing' },
    { id: 'team-b', name: 'Field crews' },
  ],
  ranRows: ['row-1'],
  tests: {
    'CUS-01@newest': test('CUS-01', 'Take the application', [], ['Application no.']),
    'FLD-01@newest': test('FLD-01', 'Survey the site', ['Application no.'], ['Survey no.']),
  },
  document: {
    legs: [createLeg({ id: 'leg-1', test: 'CUS-01', team: 'team-a' }), createLeg({ id: 'leg-2', test: 'FLD-01', team: 'team-b' })],
    columns: [
      { name: 'Street', type: 'text' },
      { name: 'Length', type: 'number' },
    ],
    rows: [
      { id: 'row-1', name: 'Farm', values: { Street: 'Mill Lane', Length: '12' } },
      { id: 'row-2', name: 'Shop', values: { Street: 'Quay', Length: 'long' } },
    ],
    classes: null,
  },
} as unknown as ScenarioDetail;

/** A view of the scenario before a server that keeps what it is told, by core’s own rules. */
function open(View: typeof Relay, options: { readonly rights?: readonly Right[]; readonly address?: string } = {}) {
  let document: ScenarioDocument = DETAIL.document;
  const opened = openScreen(<View />, options);
  opened.server.on('getScenario', () => ({ ...DETAIL, document }) as ScenarioDetail);
  opened.server.on('editScenario', ({ input }) => {
    const edited = editScenario(document, input['edits'] as ScenarioEdit[]);
    if (!edited.ok) throw new Refusal('conflict', edited.message);
    document = edited.document;
    return { undo: edited.undo } as never;
  });
  opened.show();
  const edits = () => opened.server.calls.flatMap(({ name, input }) => (name === 'editScenario' ? (input['edits'] as ScenarioEdit[]) : []));
  return { ...opened, edits, stored: () => document };
}
function Relay() {
  return <RelayPage editor={useScenario(DETAIL)} run={null} row={null} />;
}
function Rows() {
  return <RowsGrid editor={useScenario(DETAIL)} onColumn={() => {}} />;
}

const legs = () => screen.getAllByRole('button', { name: /^Leg \d+:/ }).map((leg) => leg.getAttribute('aria-label'));
const leg = (name: RegExp) => screen.getByRole('button', { name });

describe('the relay', () => {
  it('is walked by arrows; the leg that has the focus is the one that is chosen', async () => {
    const { user } = open(Relay);
    expect(legs()).toEqual(['Leg 1: Take the application CUS-01', 'Leg 2: Survey the site FLD-01']);
    leg(/^Leg 1:/).focus();
    await user.keyboard('{ArrowRight}');
    expect(document.activeElement?.getAttribute('data-leg')).toBe('leg-2');
    expect(location.search).toContain('leg=leg-2');
    await user.keyboard('{Escape}');
    expect(location.search).not.toContain('leg=');
  });

  it('says what arrives, and at once what no longer does when a leg is moved before its giver', async () => {
    const { user, edits, stored } = open(Relay);
    expect(screen.queryByText(/Leg 1 needs/)).toBeNull();
    leg(/^Leg 2:/).focus();
    await user.keyboard('{Alt>}{ArrowLeft}{/Alt}');
    expect(legs()[0]).toBe('Leg 1: Survey the site FLD-01, 1 to fix');
    expect(screen.getByText(/Leg 1 needs Application no\./)).toBeTruthy();
    await waitFor(() => expect(stored().legs.map(({ id }) => id)).toEqual(['leg-2', 'leg-1']));
    expect(edits()).toEqual([{ kind: 'move leg', leg: 'leg-2', before: 'leg-1' }]);
    await user.keyboard('{Control>}z{/Control}');
    await waitFor(() => expect(stored().legs.map(({ id }) => id)).toEqual(['leg-1', 'leg-2']));
    expect(legs()[0]).toBe('Leg 1: Take the application CUS-01');
  });

  it('takes a leg out by Delete, says that it can come back, and brings it back', async () => {
    const { user, stored } = open(Relay);
    leg(/^Leg 2:/).focus();
    await user.keyboard('{Delete}');
    await screen.findByText('Survey the site is taken out. Ctrl Z brings it back.');
    expect(stored().legs).toHaveLength(1);
    // The place is kept: its neighbour has the focus.
    expect(document.activeElement?.getAttribute('data-leg')).toBe('leg-1');
    await user.click(document.body);
    await user.keyboard('{Control>}z{/Control}');
    await waitFor(() => expect(stored().legs.map(({ id }) => id)).toEqual(['leg-1', 'leg-2']));
  });

  it('adds words that no test has as an open leg; Esc closes what is added, and so does the press of a leg, which is shown', async () => {
    const { user, server, stored } = open(Relay);
    server.on('listTests', () => ({ tests: [], total: 0, all: 0, facets: {} }) as never);
    leg(/^Leg 1:/).focus();
    await user.keyboard('a');
    await user.type(await screen.findByLabelText(/^Words in codes/), 'Weigh the pipe');
    await user.click(await screen.findByRole('button', { name: 'Add “Weigh the pipe” as an open leg' }));
    await waitFor(() => expect(stored().legs.map(({ title }) => title)).toContain('Weigh the pipe'));
    await user.type(screen.getByLabelText(/^Words in codes/), '{Escape}');
    expect(screen.queryByLabelText(/^Words in codes/)).toBeNull();
    leg(/^Leg 1:/).focus();
    await user.keyboard('a');
    await screen.findByLabelText(/^Words in codes/);
    await user.click(leg(/Survey the site/));
    expect(screen.queryByLabelText(/^Words in codes/)).toBeNull();
    expect(location.search).toContain('leg=leg-2');
  });

  it('takes an edit back that the server refuses, with its reason; what others did meanwhile is shown', async () => {
    const { user, server } = open(Relay);
    server.on('editScenario', () => {
      throw new Refusal('conflict', 'Edda Quill has taken that leg out.');
    });
    const others = { ...DETAIL, document: { ...DETAIL.document, legs: DETAIL.document.legs.slice(0, 1) } };
    server.on('getScenario', () => others);
    leg(/^Leg 2:/).focus();
    await user.keyboard('{Alt>}{ArrowLeft}{/Alt}');
    expect(await screen.findByText('Edda Quill has taken that leg out.')).toBeTruthy();
    await waitFor(() => expect(legs()).toEqual(['Leg 1: Take the application CUS-01']));
  });

  it('is only looked at by who may not edit it', async () => {
    const { user, edits } = open(Relay, { rights: ['read'] });
    leg(/^Leg 2:/).focus();
    await user.keyboard('{Alt>}{ArrowLeft}{/Alt}{Delete}');
    expect(legs()).toHaveLength(2);
    expect(edits()).toEqual([]);
  });
});

describe('data rows of a scenario', () => {
  const cell = (label: string) => screen.getByLabelText<HTMLInputElement>(label);

  it('are typed in as in a spreadsheet; Esc takes a cell back, leaving it keeps it', async () => {
    const { user, edits } = open(Rows);
    await user.clear(cell('Street of Shop'));
    await user.type(cell('Street of Shop'), 'Hill{Escape}');
    expect(cell('Street of Shop').value).toBe('Quay');
    await user.type(cell('Street of Shop'), ' 2');
    await user.tab();
    await waitFor(() => expect(edits()).toEqual([{ kind: 'change row', row: 'row-2', values: { Street: 'Quay 2' } }]));
  });

  it('are walked by arrows up and down and by Enter', async () => {
    const { user } = open(Rows);
    cell('Street of Farm').focus();
    await user.keyboard('{ArrowDown}');
    expect(document.activeElement).toBe(cell('Street of Shop'));
    await user.keyboard('{ArrowUp}{Enter}');
    expect(document.activeElement).toBe(cell('Street of Shop'));
  });

  it('mark a value that its column’s type does not take, and a row that has run', () => {
    open(Rows);
    expect(screen.getAllByText('has run')).toHaveLength(1);
    expect([cell('Length of Farm'), cell('Length of Shop')].map((each) => each.getAttribute('aria-invalid'))).toEqual(['false', 'true']);
  });

  it('take a block of a spreadsheet, with the rows that are missing, as one edit that one Ctrl Z takes back', async () => {
    const { user, server, stored } = open(Rows);
    await user.click(cell('Street of Shop'));
    await user.paste('Hill\t5\nEnd\t7');
    await waitFor(() => expect(stored().rows.map(({ values }) => values['Street'])).toEqual(['Mill Lane', 'Hill', 'End']));
    expect(server.count('editScenario')).toBe(1);
    await user.click(document.body);
    await user.keyboard('{Control>}z{/Control}');
    await waitFor(() => expect(stored().rows.map(({ values }) => values['Street'])).toEqual(['Mill Lane', 'Quay']));
  });
});
