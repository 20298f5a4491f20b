import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { openScreen } from '../../test-support/open-screen.tsx';
import { DialogBox } from './dialog.tsx';

describe('a dialog', () => {
  const open = async () => {
    const onClose = vi.fn();
    const opened = openScreen(
      <DialogBox title="A word" isOpen onClose={onClose}>
        <input aria-label="Word" />
      </DialogBox>,
    );
    opened.show();
    await screen.findByRole('dialog');
    return { ...opened, onClose };
  };

  it('is closed by a click beside it while nothing was typed in it', async () => {
    const { user, onClose } = await open();
    await user.click(document.body);
    expect(onClose).toHaveBeenCalledTimes(1);
  });

  it('keeps what was typed when somebody clicks beside it; Esc and the cross close it all the same', async () => {
    const { user, onClose } = await open();
    await user.type(screen.getByRole('textbox', { name: 'Word' }), 'a long story');
    await user.click(document.body);
    expect(onClose).not.toHaveBeenCalled();
    expect(screen.getByRole('textbox', { name: 'Word' })).toHaveProperty('value', 'a long story');
    await user.click(screen.getByRole('textbox', { name: 'Word' }));
    await user.keyboard('{Escape}');
    expect(onClose).toHaveBeenCalledTimes(1);
  });
});
