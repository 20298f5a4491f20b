import { describe, expect, it } from 'vitest';
import { pasteSteps } from './paste-steps.ts';
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

describe('pasting steps', () => {
  it('takes rows of a spreadsheet', () => {
    expect(pasteSteps('click\tSave\t\tSaved\nnote\tNumber\t\t\tQuote no.\n')).toEqual({
      steps: [
        { do: 'press', target: 'Save', expect: 'Saved' },
        { do: 'keep', target: 'Number', keepAs: 'Quote no.' },
      ],
      refused: [],
    });
  });

  it('takes a sentence a line, and tells what it does not understand', () => {
    expect(pasteSteps('Open the Quotes\nNice weather today')).toEqual({
      steps: [{ do: 'go', target: 'Quotes' }],
      refused: ['Nice weather today'],
    });
  });

  it('leaves a word for the cell to the cell', () => expect(pasteSteps('Save')).toBeNull());
});
