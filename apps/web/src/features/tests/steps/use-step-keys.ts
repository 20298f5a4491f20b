import type { Step } from '@kindred-baton/core/tests/step';
import type { ClipboardEvent, KeyboardEvent, MouseEvent, RefObject } from 'react';
import { useState } from 'react';
import { useNotice } from '../../../ui/notices.tsx';
import { copySteps, isStepList } from './copy-steps.ts';
import type { DraftEvent } from '../test-draft.ts';
import { EMPTY_STEP } from '../test-draft.ts';

/** Marking, keys and the clipboard of the step table. Every key works on the marked steps, else on the one that has the focus. */
export function useStepKeys(steps: readonly Step[], dispatch: (event: DraftEvent) => void, body: RefObject<HTMLElement | null>) {
  const notify = useNotice();
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  const [anchor, setAnchor] = useState(0);
  const focus = (index: number) =>
    setTimeout(() => body.current?.querySelector<HTMLElement>(`[data-step="${index}"] [aria-label$=": on"]`)?.focus());
  const insert = (index: number) => {
    dispatch({ kind: 'insert', index, steps: [EMPTY_STEP] });
    setMarked(new Set());
    focus(index);
  };
  const mark = (index: number, event: MouseEvent) => {
    if (event.shiftKey) {
      const [from, to] = [Math.min(anchor, index), Math.max(anchor, index)];
      setMarked(new Set(Array.from({ length: to - from + 1 }, (_, at) => from + at)));
      return;
    }
    setAnchor(index);
    setMarked((before) => {
      const next = new Set(before);
      if (!next.delete(index)) next.add(index);
      return next;
    });
  };
  const indexOf = (target: EventTarget) =>
    Number((target as HTMLElement).closest<HTMLElement>('[data-step]')?.dataset['step'] ?? Number.NaN);
  const act = (kind: 'remove' | 'duplicate', indexes: readonly number[]) => {
    dispatch({ kind, indexes });
    setMarked(new Set());
    focus(kind === 'remove' ? Math.max(0, Math.min(...indexes) - 1) : Math.max(...indexes) + 1);
  };
  const move = (indexes: readonly number[], by: -1 | 1, focused: number) => {
    if (indexes.some((index) => index + by < 0 || index + by >= steps.length)) return;
    dispatch({ kind: 'move', indexes, by });
    if (marked.size > 0) setMarked(new Set(indexes.map((index) => index + by)));
    focus(focused + by);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const index = indexOf(event.target);
    if (Number.isNaN(index)) return;
    const chosen = marked.size > 0 ? [...marked] : [index];
    const isCtrl = event.ctrlKey || event.metaKey;
    if (event.key === 'Enter' && !event.shiftKey && !isCtrl && ['INPUT', 'TEXTAREA'].includes((event.target as HTMLElement).tagName))
      insert(index + 1);
    else if (event.altKey && event.key === 'ArrowUp') move(chosen, -1, index);
    else if (event.altKey && event.key === 'ArrowDown') move(chosen, 1, index);
    else if (event.altKey && event.key === 'Delete') act('remove', chosen);
    else if (isCtrl && event.key.toLowerCase() === 'd') act('duplicate', chosen);
    else if (event.key === 'Escape' && marked.size > 0) setMarked(new Set());
    else if (!isCtrl && !event.altKey && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
      if (!walkCells(event.target as HTMLElement, body.current, index + (event.key === 'ArrowDown' ? 1 : -1))) return;
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const onCopy = (event: ClipboardEvent) => {
    if (marked.size === 0) return;
    event.preventDefault();
    const chosen = [...marked].sort((a, b) => a - b);
    event.clipboardData.setData('text/plain', copySteps(chosen.flatMap((index) => steps[index] ?? [])));
    notify({ kind: 'done', text: `${chosen.length} ${chosen.length === 1 ? 'step is' : 'steps are'} copied.` });
  };
  const onPaste = (event: ClipboardEvent) => {
    const at = indexOf(event.target);
    const index = Number.isNaN(at) ? steps.length : at;
    const text = event.clipboardData.getData('text/plain');
    if (!isStepList(text)) return;
    event.preventDefault();
    void import('./paste-steps.ts').then(({ pasteSteps }) => lay(pasteSteps(text), index));
  };
  const lay = (pasted: { readonly steps: readonly Step[]; readonly byHand: number }, index: number) => {
    const isEmpty = steps[index]?.target === '';
    const next = [...steps];
    next.splice(isEmpty ? index : index + 1, isEmpty ? 1 : 0, ...pasted.steps);
    dispatch({ kind: 'steps', steps: next });
    if (pasted.byHand > 0)
      notify({ kind: 'done', text: `${pasted.byHand} of ${pasted.steps.length} were not understood; they are steps by hand.` });
  };
  return { marked, mark, insert, act, onKeyDown, onCopy, onPaste };
}

/** Up and down go to the same cell of the next row, where the cell's text has one line. */
function walkCells(from: HTMLElement, body: HTMLElement | null, index: number): boolean {
  if (from.tagName === 'SELECT') return false;
  if (from instanceof HTMLTextAreaElement && from.clientHeight > 40) return false;
  const column = from.getAttribute('aria-label')?.split(': ')[1];
  const next = body?.querySelector<HTMLElement>(`[data-step="${index}"] [aria-label$=": ${column ?? ''}"]`);
  next?.focus();
  return next !== null && next !== undefined;
}
