import { act, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { defer, openScreen } from '../../test-support/open-screen.tsx';
import type { Editing } from './use-editing.ts';
import { useEditing } from './use-editing.ts';

/** An edit adds or takes a letter; the server’s text is what it has heard of. */
type Edit = { readonly add: string } | { readonly drop: string };

function open() {
  const shown: string[] = [];
  const sent: Edit[][] = [];
  const answers: ReturnType<typeof defer<null>>[] = [];
  let asked = 0;
  let editing: Editing<Edit> | undefined;
  const parts = {
    show: (edits: readonly Edit[]) => {
      for (const edit of edits) {
        if ('add' in edit && edit.add === '!') return 'That cannot be added.';
        if ('add' in edit) shown.push(edit.add);
        else shown.splice(shown.lastIndexOf(edit.drop), 1);
      }
      return null;
    },
    send: async (edits: readonly Edit[]) => {
      sent.push([...edits]);
      const answer = defer<null>();
      answers.push(answer);
      await answer.promise;
      return { undo: [...edits].reverse().map((edit): Edit => ('add' in edit ? { drop: edit.add } : { add: edit.drop })) };
    },
    ask: () => void (asked += 1),
  };
  function Parts() {
    editing = useEditing<Edit>(parts);
    return (
      <>
        <button type="button" disabled={!editing.undo} onClick={() => editing?.undo?.()}>
          Undo
        </button>
        <button type="button" disabled={!editing.redo} onClick={() => editing?.redo?.()}>
          Redo
        </button>
        <input aria-label="Field" />
      </>
    );
  }
  const { user, show } = openScreen(<Parts />);
  show();
  const settle = () => act(async () => new Promise((done) => setTimeout(done, 0)));
  return {
    ...{ shown, sent, user, settle, asked: () => asked },
    run: (edit: Edit) => {
      let made: Promise<boolean> = Promise.resolve(false);
      act(() => void (made = editing?.run([edit]) ?? made));
      return made;
    },
    whenSettled: () => editing?.whenSettled(),
    answer: async (index: number, error?: Error) => {
      if (error) answers[index]?.reject(error);
      else answers[index]?.resolve(null);
      await settle();
    },
  };
}

const button = (name: string) => screen.getByRole('button', { name });

describe('edits', () => {
  it('are shown at once and sent one after the other: the second waits for the first’s answer', async () => {
    const { shown, sent, run, answer, asked, settle } = open();
    const first = run({ add: 'a' });
    const second = run({ add: 'b' });
    expect(shown).toEqual(['a', 'b']);
    await settle();
    expect(sent).toHaveLength(1);
    await answer(0);
    expect(await first).toBe(true);
    expect(sent).toEqual([[{ add: 'a' }], [{ add: 'b' }]]);
    await answer(1);
    expect(await second).toBe(true);
    expect(asked()).toBe(2);
  });

  it('that the server refuses are told, and there is nothing to take back; what comes after goes out all the same', async () => {
    const { run, sent, answer, settle } = open();
    const first = run({ add: 'a' });
    const second = run({ add: 'b' });
    await settle();
    await answer(0, new Error('Somebody else removed it.'));
    expect(await first).toBe(false);
    expect(screen.getByText('Somebody else removed it.')).toBeTruthy();
    await answer(1);
    expect(await second).toBe(true);
    expect(sent).toHaveLength(2);
    expect(button('Undo')).toHaveProperty('disabled', false);
  });

  it('that cannot be shown are told and never sent', async () => {
    const { run, sent, settle } = open();
    expect(await run({ add: '!' })).toBe(false);
    await settle();
    expect(sent).toEqual([]);
    expect(screen.getByText('That cannot be added.')).toBeTruthy();
    expect(button('Undo')).toHaveProperty('disabled', true);
  });

  it('are taken back and made again, by buttons and keys; a key in a field belongs to the field', async () => {
    const { run, shown, sent, answer, user, settle } = open();
    void run({ add: 'a' });
    await settle();
    await answer(0);
    await user.click(button('Undo'));
    await answer(1);
    expect([shown, sent.at(-1)]).toEqual([[], [{ drop: 'a' }]]);
    await user.keyboard('{Control>}{Shift>}z{/Shift}{/Control}');
    await answer(2);
    expect([shown, sent.at(-1)]).toEqual([['a'], [{ add: 'a' }]]);
    await user.click(screen.getByLabelText('Field'));
    await user.keyboard('{Control>}z{/Control}');
    await settle();
    expect(sent).toHaveLength(3);
    await user.click(document.body);
    await user.keyboard('{Control>}z{/Control}');
    await answer(3);
    expect(shown).toEqual([]);
  });

  it('can be taken back before the server has answered: what undoes them is sent once it is known', async () => {
    const { run, sent, answer, user, settle } = open();
    void run({ add: 'a' });
    await settle();
    await user.click(button('Undo'));
    expect(sent).toEqual([[{ add: 'a' }]]);
    await answer(0);
    expect(sent.at(-1)).toEqual([{ drop: 'a' }]);
  });

  it('settle when the last one has reached the server, also one that came meanwhile', async () => {
    const { run, answer, whenSettled, settle } = open();
    void run({ add: 'a' });
    await settle();
    let isSettled = false;
    void whenSettled()?.then(() => (isSettled = true));
    void run({ add: 'b' });
    await answer(0);
    expect(isSettled).toBe(false);
    await answer(1);
    expect(isSettled).toBe(true);
  });
});
