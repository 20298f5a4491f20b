import type { ChangeEvent, KeyboardEvent } from 'react';
import { useState } from 'react';

type Field = HTMLInputElement | HTMLTextAreaElement;

/** What is typed into a field is kept when it is left, or by Enter; Esc takes it back. */
export function useDraft(value: string, onKeep: (typed: string) => void) {
  const [draft, setDraft] = useState<string | null>(null);
  const keep = () => {
    setDraft(null);
    if (draft !== null && draft.trim() !== value) onKeep(draft.trim());
  };
  return {
    value: draft ?? value,
    onChange: (event: ChangeEvent<Field>) => setDraft(event.target.value),
    onBlur: keep,
    onKeyDown: (event: KeyboardEvent<Field>) => {
      if (event.key === 'Enter' && event.currentTarget instanceof HTMLInputElement) keep();
      else if (event.key === 'Escape') setDraft(null);
    },
  };
}
