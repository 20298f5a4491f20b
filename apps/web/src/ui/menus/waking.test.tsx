import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { Choose } from './choose.tsx';
import { DialogBox } from '../dialog.tsx';
import { MenuButton } from './menu-button.tsx';

describe('a control whose code is fetched when it is needed', () => {
  it('a menu opens by the very press that fetches it, and does what is chosen', async () => {
    const chosen: string[] = [];
    const choices = [
      { key: 'csv', name: 'CSV' },
      { key: 'xlsx', name: 'XLSX', href: '/x.xlsx', isDownload: true },
    ];
    const { user, show } = openScreen(<MenuButton label="Export" choices={choices} onChoose={(key) => chosen.push(key)} />);
    show();
    const button = screen.getByRole('button', { name: 'Export' });
    expect([button.getAttribute('aria-haspopup'), button.getAttribute('aria-expanded')]).toEqual(['menu', 'false']);
    await user.click(button);
    expect((await screen.findByRole('menuitem', { name: 'XLSX' })).getAttribute('href')).toBe('/x.xlsx');
    await user.click(screen.getByRole('menuitem', { name: 'CSV' }));
    expect(chosen).toEqual(['csv']);
    await waitFor(() => expect(screen.queryByRole('menu')).toBeNull());
    await user.click(screen.getByRole('button', { name: 'Export' }));
    expect(await screen.findByRole('menu')).toBeTruthy();
  });

  it('a list opens by arrow down as well, shows what is chosen, and keeps it once it is closed', async () => {
    function Kind() {
      const [kind, setKind] = useState('');
      const choices = ['', 'legal', 'acceptance'].map((key) => ({ key, name: key || 'all' }));
      return <Choose label="Kind" chosen={kind} choices={choices} onChoose={setKind} />;
    }
    const { user, show } = openScreen(<Kind />);
    show();
    await user.tab();
    await user.keyboard('{ArrowDown}');
    await user.click(await screen.findByRole('option', { name: 'legal' }));
    await waitFor(() => expect(screen.queryByRole('listbox')).toBeNull());
    expect(screen.getByRole('button', { name: /Kind/ }).textContent).toContain('legal');
  });

  it('one that cannot be used does not wake', async () => {
    const { user, show } = openScreen(<MenuButton label="Export" choices={[]} isDisabled />);
    show();
    await user.click(screen.getByRole('button', { name: 'Export' }));
    expect(screen.queryByRole('menu')).toBeNull();
  });

  it('a dialog keeps the focus, and closes by Esc and by its button', async () => {
    function Asked() {
      const [isOpen, setIsOpen] = useState(true);
      return (
        <>
          <button type="button" onClick={() => setIsOpen(true)}>
            Ask
          </button>
          <DialogBox title="Sure?" isOpen={isOpen} onClose={() => setIsOpen(false)}>
            <input aria-label="Why" />
          </DialogBox>
        </>
      );
    }
    const { user, show } = openScreen(<Asked />);
    show();
    const dialog = await screen.findByRole('dialog', { name: 'Sure?' });
    expect(dialog.contains(document.activeElement)).toBe(true);
    await user.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    await user.click(screen.getByRole('button', { name: 'Ask' }));
    await user.click(await screen.findByRole('button', { name: 'Close' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });
});
