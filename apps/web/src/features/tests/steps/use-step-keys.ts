import type { Step } from '@kindred-baton/core/tests/step';
import type { ClipboardEvent, KeyboardEvent, MouseEvent, RefObject } from 'react';
import { useState } from 'react';
import { useNotice } from '../../../ui/notices.tsx';
import { copySteps, isStepList } from './copy-steps.ts';
import type { StepAct } from './read-step-key.ts';
import { actOn, laySteps, markStep, NO_MARKS, readStepKey } from './read-step-key.ts';
import type { DraftEvent } from '../test-draft.ts';
import { EMPTY_STEP } from '../test-draft.ts';

/** Marking, keys and the clipboard of the step table. Every key works on the marked steps, else on the one that has the focus. */
export function useStepKeys(steps: readonly Step[], dispatch: (event: DraftEvent) => void, body: RefObject<HTMLElement | null>) {
  const notify = useNotice();
  const [marks, setMarks] = useState(NO_MARKS);
  const { marked } = marks;
  const unmark = () => setMarks(NO_MARKS);
  const focus = (index: number) =>
    setTimeout(() => body.current?.querySelector<HTMLElement>(`[data-step="${index}"] [aria-label$=": on"]`)?.focus());
  const insert = (index: number) => {
    dispatch({ kind: 'insert', index, steps: [EMPTY_STEP] });
    unmark();
    focus(index);
  };
  const mark = (index: number, event: MouseEvent) => setMarks((before) => markStep(before, index, event.shiftKey));
  const indexOf = (target: EventTarget) =>
    Number((target as HTMLElement).closest<HTMLElement>('[data-step]')?.dataset['step'] ?? Number.NaN);
  const perform = (wanted: StepAct) => {
    if (wanted.kind === 'insert') insert(wanted.index);
    else if (wanted.kind === 'unmark') unmark();
    else if (wanted.kind === 'move') {
      dispatch({ kind: 'move', indexes: wanted.indexes, by: wanted.by });
      if (marked.size > 0) setMarks({ ...marks, marked: new Set(wanted.indexes.map((index) => index + wanted.by)) });
      focus(wanted.focus);
    } else if (wanted.kind === 'remove' || wanted.kind === 'duplicate') {
      dispatch({ kind: wanted.kind, indexes: wanted.indexes });
      unmark();
      focus(wanted.focus);
    }
  };
  const act = (kind: 'remove' | 'duplicate', indexes: readonly number[]) =>
    perform(actOn(kind, { index: indexes[0] ?? 0, marked: new Set(indexes), count: steps.length }));
  const onKeyDown = (event: KeyboardEvent) => {
    const target = event.target as HTMLElement;
    const index = indexOf(target);
    if (Number.isNaN(index)) return;
    const { key, altKey, shiftKey } = event;
    const pressed = {
      key,
      altKey,
      shiftKey,
      isCommand: event.ctrlKey || event.metaKey,
      isInText: ['INPUT', 'TEXTAREA'].includes(target.tagName),
    };
    const wanted = readStepKey(pressed, { index, marked, count: steps.length });
    if (!wanted) return;
    if (wanted.kind === 'walk' && !walkCells(target, body.current, wanted.index)) return;
    perform(wanted);
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
    dispatch({ kind: 'steps', steps: laySteps(steps, pasted.steps, index) });
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
