import { describe, expect, it } from 'vitest';
import { copySteps, isStepList } from './steps/copy-steps.ts';
import { copyRow, listColumns, pasteRows } from './data-row-cells.ts';
import { pasteSteps } from './steps/paste-steps.ts';
import { createDraft, EMPTY_STEP, reduceDraft, toSaveTest } from './test-draft.ts';
import type { DraftEvent } from './test-draft.ts';

const VERSION = {
  ...{ number: 2, state: 'agreed' as const, revision: 1, savedBy: null, savedAt: '2026-11-20T10:00:00Z', rows: [] },
  steps: [
    { do: 'fill' as const, target: 'Survey number', value: '{Survey no.}' },
    { do: 'keep' as const, target: 'Quote number', keepAs: 'Quote no.' },
  ],
  needs: [{ name: 'Survey no.', type: 'code' as const, pattern: 'SV-99999' }],
  gives: [{ name: 'Quote no.', type: 'text' as const }],
};
const draft = () => createDraft({ name: 'Price the quote', minutes: 15, version: VERSION });
const play = (...events: DraftEvent[]) => events.reduce(reduceDraft, draft());

describe('a draft of a test', () => {
  it('derives needs and gives from its steps as they are typed, and keeps confirmed types', () => {
    const edited = play({ kind: 'step', index: 0, change: { value: '{Survey no.} for {Customer}' } });
    expect(edited.needs.map(({ name, type }) => [name, type])).toEqual([
      ['Survey no.', 'code'],
      ['Customer', 'text'],
    ]);
    expect(edited.isChanged).toBe(true);
  });

  it('gives a name that is new here the type that it has in other tests', () => {
    const elsewhere = [
      { name: 'customer', type: 'choice' as const, choices: ['household', 'business'] },
      { name: 'Survey no.', type: 'number' as const },
    ];
    const edited = play(
      { kind: 'elsewhere', fields: elsewhere },
      { kind: 'step', index: 0, change: { value: '{Survey no.} for {Customer}' } },
    );
    expect(edited.needs.find(({ name }) => name === 'Customer')).toMatchObject({ type: 'choice', choices: ['household', 'business'] });
    // What was confirmed here stays.
    expect(edited.needs.find(({ name }) => name === 'Survey no.')?.type).toBe(
      draft().needs.find(({ name }) => name === 'Survey no.')?.type,
    );
    expect(play({ kind: 'elsewhere', fields: elsewhere })).toMatchObject({ isChanged: false, edits: 0 });
  });

  it('forgets a need when the last step that used it is gone', () => expect(play({ kind: 'remove', indexes: [0] }).needs).toEqual([]));

  it('inserts, moves and takes out steps', () => {
    const edited = play({ kind: 'insert', index: 2, steps: [{ do: 'press', target: 'Save' }] }, { kind: 'move', indexes: [2], by: -1 });
    expect(edited.steps.map(({ target }) => target)).toEqual(['Survey number', 'Save', 'Quote number']);
    expect(reduceDraft(edited, { kind: 'move', indexes: [0], by: -1 }).steps).toEqual(edited.steps);
  });

  it('gives one type to a value that is both needed and given', () => {
    const edited = play(
      { kind: 'step', index: 0, change: { keepAs: 'Survey no.' } },
      { kind: 'field', field: { name: 'survey no.', type: 'text' } },
    );
    expect([edited.needs[0]?.type, edited.gives.find(({ name }) => name === 'Survey no.')?.type]).toEqual(['text', 'text']);
  });

  it('saves on what it began from, without rows that were never filled in', () => {
    const edited = play({ kind: 'insert', index: 2, steps: [EMPTY_STEP] }, { kind: 'name', name: 'New name' });
    expect(toSaveTest(edited)).toMatchObject({ base: { number: 2, revision: 1 }, name: 'New name', steps: VERSION.steps });
    expect(play({ kind: 'name', name: 'x' }, { kind: 'saved', base: { number: 3, revision: 1 }, edits: 1 })).toMatchObject({
      isChanged: false,
      base: { number: 3 },
    });
  });
});

describe('undo', () => {
  it('takes back one edit at a time, typing in one cell as one, and redoes it', () => {
    const typed = play(
      { kind: 'step', index: 0, change: { value: 'a' } },
      { kind: 'step', index: 0, change: { value: 'ab' } },
      { kind: 'duplicate', indexes: [0, 1] },
    );
    expect(typed.steps).toHaveLength(4);
    const back = reduceDraft(reduceDraft(typed, { kind: 'undo' }), { kind: 'undo' });
    expect(back.steps).toEqual(VERSION.steps);
    expect(reduceDraft(back, { kind: 'redo' }).steps[0]?.value).toBe('ab');
    expect(reduceDraft(back, { kind: 'undo' })).toEqual(back);
  });

  it('knows whether more was typed while a save was on its way', () => {
    const typed = play({ kind: 'name', name: 'A' }, { kind: 'minutes', minutes: 9 });
    expect(reduceDraft(typed, { kind: 'saved', base: { number: 2, revision: 2 }, edits: 1 }).isChanged).toBe(true);
    expect(reduceDraft(typed, { kind: 'saved', base: { number: 2, revision: 2 }, edits: 2 }).isChanged).toBe(false);
  });
});

describe('many steps at once', () => {
  const many = () => play({ kind: 'steps', steps: ['A', 'B', 'C', 'D'].map((target) => ({ do: 'press' as const, target })) });
  const targets = (event: DraftEvent) =>
    reduceDraft(many(), event)
      .steps.map(({ target }) => target)
      .join('');

  it.each<[string, DraftEvent, string]>([
    ['move down together', { kind: 'move', indexes: [0, 1], by: 1 }, 'CABD'],
    ['move up together, also apart', { kind: 'move', indexes: [1, 3], by: -1 }, 'BADC'],
    ['stay where one of them would leave', { kind: 'move', indexes: [0, 2], by: -1 }, 'ABCD'],
    ['are duplicated behind the last of them', { kind: 'duplicate', indexes: [2, 0] }, 'ABCACD'],
    ['are taken out', { kind: 'remove', indexes: [0, 3] }, 'BC'],
  ])('%s', (_, event, expected) => expect(targets(event)).toBe(expected));

  it('that were tidied give their named values to the data rows, which keep what they say', () => {
    const steps = [{ do: 'fill' as const, target: 'Street', value: '{Street}' }];
    expect(play({ kind: 'tidied', steps, inputs: { Street: 'Mill Lane' } }).rows).toEqual([
      { name: 'Row 1', values: { Street: 'Mill Lane' } },
    ]);
    const kept = play(
      { kind: 'rows', rows: [{ name: 'House', values: { Street: 'Quay' } }] },
      { kind: 'tidied', steps, inputs: { Street: 'Mill Lane' } },
    );
    expect(kept.rows[0]?.values).toEqual({ Street: 'Quay' });
  });
});

describe('pasting steps', () => {
  it('takes rows of a spreadsheet; what was copied comes back the same', () => {
    const steps = [
      { do: 'press' as const, target: 'Save', expect: 'Saved' },
      { do: 'keep' as const, target: 'Number', keepAs: 'Quote no.' },
    ];
    expect(pasteSteps('click\tSave\t\tSaved\nnote\tNumber\t\t\tQuote no.\n')).toEqual({ steps, byHand: 0 });
    expect(pasteSteps(copySteps(steps))).toEqual({ steps, byHand: 0 });
  });

  it('takes a sentence a line; what it does not understand is a step by hand', () => {
    expect(pasteSteps('Open the Quotes\nRing the depot')).toEqual({
      steps: [
        { do: 'go', target: 'Quotes' },
        { do: 'hand', target: 'Ring the depot' },
      ],
      byHand: 1,
    });
  });

  it('leaves a word for the cell to the cell', () =>
    expect(['Save', 'Save\n', 'a\tb', 'a\nb'].map(isStepList)).toEqual([false, false, true, true]));
});

describe('data rows', () => {
  const rows = [{ name: 'House', values: { Town: 'Halden' } }];

  it('are copied under a name of their own', () => {
    expect(copyRow({ name: 'House 2', values: {} }, [...rows, { name: 'House 2', values: {} }]).name).toBe('House 3');
  });

  it('have the needs as columns, then what only rows name, each once', () => {
    expect(listColumns([{ name: 'town', type: 'text' }], [{ name: 'A', values: { Town: 'x', Street: 'y' } }])).toEqual(['town', 'Street']);
  });

  it('take a block of a spreadsheet from a cell on, and grow by it', () => {
    expect(
      pasteRows({ rows, columns: ['Town', 'Street'], text: 'Farm\tplanner\tQuay\tMill\nMill\t\tTarn\t\n', row: 0, column: -2 }),
    ).toEqual([
      { name: 'Farm', as: 'planner', values: { Town: 'Quay', Street: 'Mill' } },
      { name: 'Mill', values: { Town: 'Tarn', Street: '' } },
    ]);
    expect(pasteRows({ rows, columns: ['Town'], text: 'one word', row: 0, column: 0 })).toBeNull();
  });
});
