import type { MapDifferenceLine, MapImportPreview, WorkbookImportPreview } from '@kindred-baton/contracts/imports/import';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { defer, openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { MapImport } from './map-import.tsx';
import { WorkbookImport } from './workbook-import.tsx';

const HEAD = { file: 'list.xlsx', fingerprint: 'print-1', problems: [], warnings: [], isStored: false };
const COUNTS = { new: 0, changed: 0, same: 0 };
const line = (code: string, more: Partial<MapDifferenceLine> = {}): MapDifferenceLine => ({
  ...{ kind: 'new', code, name: `Name ${code}`, depth: 0, parent: null, parentBefore: null, changes: [] },
  ...more,
});
const mapOf = (differences: MapDifferenceLine[]): MapImportPreview => ({
  ...HEAD,
  ...{ format: 'JSON', columns: null, mapping: null, differences, more: 0, newTeams: [], newApplications: [] },
  counts: {
    ...{ ...COUNTS, moved: 0, missing: 0 },
    ...Object.fromEntries(['new', 'changed', 'missing'].map((kind) => [kind, differences.filter((each) => each.kind === kind).length])),
  },
});
const WORKBOOK: WorkbookImportPreview = {
  ...HEAD,
  map: { counts: { ...COUNTS, new: 1, moved: 0, missing: 3 }, differences: [line('HL')], more: 0 },
  tests: {
    counts: { ...COUNTS, changed: 1 },
    differences: [
      {
        ...{ kind: 'changed', code: 'T-1', title: 'Lamp', steps: ['Press Save'], rows: 0 },
        changes: [{ field: 'minutes', before: '5', after: '' }],
      },
    ],
  },
  scenarios: { counts: COUNTS, differences: [] },
};
const file = (name = 'list.xlsx') => new File(['x'], name);
const takeIn = () => screen.getByRole('button', { name: /^(Take it all in|Working …)$/ });
const choose = async (user: ReturnType<typeof openScreen>['user'], chosen: File) => user.upload(screen.getByLabelText('File'), chosen);

describe('looking at a file', () => {
  const open = () => {
    const opened = openScreen(<WorkbookImport />);
    opened.show();
    return opened;
  };

  it('shows what it would change, field by field, and stores what was seen, as it was chosen', async () => {
    const { server, user } = open();
    server.on('importWorkbook', ({ input }) => ({ ...WORKBOOK, isStored: input['accept'] !== undefined }));
    await choose(user, file());
    expect(await screen.findByText('minutes: 5 → nothing')).toBeTruthy();
    expect(screen.getByText('1 new; 3 are not in the file and stay')).toBeTruthy();
    expect(screen.queryByRole('checkbox')).toBeNull();
    await user.click(takeIn());
    await screen.findByText('list.xlsx is stored, all of it');
    expect(server.calls.map(({ input }) => input)).toEqual([{}, { agreesNew: true, accept: 'print-1' }]);
    expect(screen.getByRole('link', { name: 'See it on the map' }).getAttribute('href')).toBe('/brindlemere/map');
  });

  it('asks whether what is new is agreed, where there is something new', async () => {
    const { server, user } = open();
    server.on('importWorkbook', () => ({ ...WORKBOOK, tests: { ...WORKBOOK.tests, counts: { ...COUNTS, new: 2 } } }));
    await choose(user, file());
    await user.click(await screen.findByRole('checkbox'));
    await user.click(takeIn());
    await waitFor(() => expect(server.calls.at(-1)?.input).toEqual({ agreesNew: false, accept: 'print-1' }));
  });

  it('cannot be taken in while something is to mend, or when nothing differs', async () => {
    const { server, user } = open();
    server.on('importWorkbook', () => ({ ...WORKBOOK, problems: [{ sheet: 'Tests', row: 7, column: 'Do', message: 'It is no verb.' }] }));
    await choose(user, file());
    const problem = within(await screen.findByRole('region', { name: 'To mend' })).getAllByRole('cell');
    expect(problem.map(({ textContent }) => textContent)).toEqual(['Tests', '7', 'Do', 'It is no verb.']);
    expect(takeIn()).toHaveProperty('disabled', true);
    const map = { ...WORKBOOK.map, counts: { ...WORKBOOK.map.counts, new: 0 } };
    server.on('importWorkbook', () => ({ ...WORKBOOK, map, tests: { counts: COUNTS, differences: [] } }));
    await choose(user, file('same.xlsx'));
    await screen.findByText('everything in list.xlsx is there already');
    expect(takeIn()).toHaveProperty('disabled', true);
  });

  it('can be stopped, and an answer that comes late is not shown', async () => {
    const { server, user } = open();
    const late = defer<WorkbookImportPreview>();
    server.on('importWorkbook', () => late.promise);
    await choose(user, file('big.xlsx'));
    await user.click(await screen.findByRole('button', { name: 'Stop' }));
    late.resolve(WORKBOOK);
    await new Promise((done) => setTimeout(done, 20));
    expect(screen.queryByRole('button', { name: 'Take it all in' })).toBeNull();
    expect(screen.getByRole('button', { name: 'Choose another file' })).toBeTruthy();
  });

  it('an earlier file that answers later does not take the place of the one that is looked at', async () => {
    const { server, user } = open();
    const slow = defer<WorkbookImportPreview>();
    server.on('importWorkbook', () =>
      server.count('importWorkbook') === 1
        ? slow.promise
        : { ...WORKBOOK, file: 'second.xlsx', problems: [{ sheet: '', message: 'Second' }] },
    );
    await choose(user, file('first.xlsx'));
    await user.click(await screen.findByRole('button', { name: 'Stop' }));
    await choose(user, file('second.xlsx'));
    await screen.findByText('1 thing to mend in second.xlsx; nothing is stored');
    slow.resolve(WORKBOOK);
    await new Promise((done) => setTimeout(done, 20));
    expect(screen.getByText('1 thing to mend in second.xlsx; nothing is stored')).toBeTruthy();
  });

  it('a refusal is told, with that nothing was stored; the preview stays and can be looked at again', async () => {
    const { server, user } = open();
    server.on('importWorkbook', ({ input }) => {
      if (input['accept'] !== undefined) throw new Refusal('conflict', 'The programme has changed since the preview.');
      return WORKBOOK;
    });
    await choose(user, file());
    await user.click(await screen.findByRole('button', { name: 'Take it all in' }));
    expect((await screen.findByRole('alert')).textContent).toBe('The programme has changed since the preview. Nothing was stored.');
    expect(screen.getByText('minutes: 5 → nothing')).toBeTruthy();
    server.goAway();
    await user.click(takeIn());
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('The server does not answer.'));
  });
});

describe('a process list', () => {
  const branch = [
    line('A', { kind: 'same' }),
    line('A-1', { depth: 1, parent: 'A' }),
    line('A-1.1', { depth: 2, parent: 'A-1' }),
    line('B', { kind: 'changed', changes: [{ field: 'name', before: 'Was', after: 'Is' }] }),
    line('C', { kind: 'missing' }),
  ];
  const open = async () => {
    const opened = openScreen(<MapImport />);
    opened.show();
    opened.server.on('importMap', ({ input }) => ({ ...mapOf(branch), isStored: input['accept'] !== undefined }));
    await choose(opened.user, file());
    await screen.findByText(/to take in$/);
    return opened;
  };

  it('counts what is chosen: a branch that stays as it is keeps all that lies in it', async () => {
    const { server, user } = await open();
    expect(screen.getByText(/3 changes to take in$/)).toBeTruthy();
    await user.selectOptions(screen.getByRole('combobox', { name: /not in the file/ }), 'remove');
    expect(screen.getByText(/4 changes to take in$/)).toBeTruthy();
    await user.click(screen.getByRole('checkbox', { name: 'Take A-1 and its branch in' }));
    expect(screen.getByText(/2 changes to take in$/)).toBeTruthy();
    expect(screen.getByRole('checkbox', { name: 'Take A-1.1 and its branch in' })).toMatchObject({ checked: false, disabled: true });
    await user.click(takeIn());
    await waitFor(() =>
      expect(server.calls.at(-1)?.input).toMatchObject({ missing: 'remove', leftOut: ['A-1'], accept: 'print-1', below: null }),
    );
  });

  it('is looked at again where its answer depends on the choice, and asks whether new teams are added', async () => {
    const { server, user } = await open();
    server.on('importMap', () => ({
      ...mapOf(branch),
      newTeams: ['Ghosts', 'Elves'],
      problems: [{ sheet: '', message: 'Team “Ghosts” is not in this programme.' }],
    }));
    await choose(user, file('teams.xlsx'));
    await user.click(await screen.findByRole('checkbox', { name: 'Add the teams Ghosts, Elves to the programme' }));
    await waitFor(() => expect(server.calls.at(-1)?.input).toMatchObject({ addsNames: true, leftOut: [] }));
  });
});
