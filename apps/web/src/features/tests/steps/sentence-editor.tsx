import { autocompletion, closeBrackets, completionKeymap } from '@codemirror/autocomplete';
import type { Completion, CompletionContext, CompletionResult } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import type { Diagnostic } from '@codemirror/lint';
import { linter } from '@codemirror/lint';
import { Annotation, Compartment, EditorState } from '@codemirror/state';
import type { Range } from '@codemirror/state';
import { Decoration, EditorView, keymap, lineNumbers, placeholder, ViewPlugin } from '@codemirror/view';
import type { DecorationSet, ViewUpdate } from '@codemirror/view';
import { printStep, quote } from '@kindred-baton/core/tests/print-step';
import { readPlainSentence } from '@kindred-baton/core/tests/read-plain-sentence';
import { getActionFacts, STEP_ACTIONS } from '@kindred-baton/core/tests/step';
import { useEffect, useRef } from 'react';

interface SentenceEditorProps {
  readonly text: string;
  readonly canEdit: boolean;
  readonly targets: readonly string[];
  readonly names: readonly string[];
  readonly personas: readonly string[];
  readonly onChange: (text: string) => void;
}

type Words = Pick<SentenceEditorProps, 'targets' | 'names' | 'personas'>;

/** Marks what was laid into the editor from outside: it is no edit of the person's. */
const LAID = Annotation.define<boolean>();

/** The sentences in an editor that knows the things of the application, the values that travel, and what a line means. */
export function SentenceEditor({ text, canEdit, targets, names, personas, onChange }: SentenceEditorProps) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const words = useRef<Words>({ targets, names, personas });
  const tell = useRef(onChange);
  useEffect(() => {
    words.current = { targets, names, personas };
    tell.current = onChange;
  });
  useEffect(() => {
    if (!host.current) return undefined;
    const editable = new Compartment();
    const editor = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: text,
        extensions: [
          ...[lineNumbers(), history(), closeBrackets(), EditorView.lineWrapping, PLACES, THEME],
          keymap.of([...completionKeymap, ...defaultKeymap, ...historyKeymap]),
          autocompletion({ override: [(context) => complete(context, words.current)], icons: false }),
          linter(examineLines, { delay: 250 }),
          placeholder('Open the list of surveys\nEnter {Survey no.} in the survey number field\nClick Save'),
          editable.of([EditorView.editable.of(canEdit), EditorState.readOnly.of(!canEdit)]),
          EditorView.contentAttributes.of({ 'aria-label': 'Steps as sentences, one a line', spellcheck: 'false' }),
          EditorView.updateListener.of((update) => {
            const isLaid = update.transactions.some((transaction) => transaction.annotation(LAID));
            if (update.docChanged && !isLaid) tell.current(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = editor;
    return () => editor.destroy();
    // The editor holds its text from here on; what comes from outside is laid into it below.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useEffect(() => {
    const editor = view.current;
    if (editor && editor.state.doc.toString() !== text)
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: text }, annotations: LAID.of(true) });
  }, [text]);
  return <div ref={host} className="sentence-editor" />;
}

/** A line that is no step in our words is marked; what it is read as, or that it stays as it is, is one click. */
function examineLines({ state }: EditorView): Diagnostic[] {
  const found: Diagnostic[] = [];
  for (let number = 1; number <= state.doc.lines; number += 1) {
    const line = state.doc.line(number);
    if (line.text.trim() === '') continue;
    const { steps, isUnderstood } = readPlainSentence(line.text);
    const printed = steps.map(printStep).join('\n');
    if (printed === line.text.trim()) continue;
    const apply = {
      name: isUnderstood ? 'Write it so' : 'Leave it to people',
      apply: (editor: EditorView) => editor.dispatch({ changes: { from: line.from, to: line.to, insert: printed } }),
    };
    found.push({
      ...{ from: line.from, to: line.to, severity: isUnderstood ? 'hint' : 'warning', actions: [apply] },
      message: isUnderstood
        ? `Read as: ${printed.replace(/\n/g, ' Then: ')}`
        : 'Not understood. It stays as a step by hand, in these words.',
    });
  }
  return found;
}

const VERBS: readonly Completion[] = STEP_ACTIONS.map((action) => getActionFacts(action).word).map((label) => ({
  label,
  apply: `${label} `,
}));

/** At the beginning of a line the verbs, in braces the values, in quotation marks or behind a verb the things. */
function complete(context: CompletionContext, { targets, names, personas }: Words): CompletionResult | null {
  const place = context.matchBefore(/\{[^{}]*$/);
  if (place) {
    const options = [...names.map((name) => ({ label: `{${name}}` })), { label: '{today + 30 days}' }, { label: '{new AA-9999}' }];
    return { from: place.from, to: takeClosing(context, '}'), options };
  }
  const persona = context.matchBefore(/^\s*As "[^"]*$/i);
  if (persona)
    return {
      from: persona.from + persona.text.indexOf('"'),
      to: takeClosing(context, '"'),
      options: personas.map((name) => ({ label: quote(name), apply: `${quote(name)}: ` })),
    };
  const quoted = context.matchBefore(/"(?:\\.|[^"\\])*$/);
  if (quoted && isOpen(context))
    return { from: quoted.from, to: takeClosing(context, '"'), options: targets.map((target) => ({ label: quote(target) })) };
  const word = context.matchBefore(/^\s*[A-Za-z]+(?: [a-z]*)?$/);
  if (word && (word.text.trim() !== '' || context.explicit))
    return { from: word.from + (word.text.length - word.text.trimStart().length), options: VERBS };
  return null;
}

/** Whether the quotation mark before the cursor opens. */
function isOpen({ state, pos }: CompletionContext): boolean {
  const line = state.doc.lineAt(pos);
  return (line.text.slice(0, pos - line.from).match(/(?<!\\)"/g) ?? []).length % 2 === 1;
}

function takeClosing({ state, pos }: CompletionContext, sign: string): number {
  return state.doc.sliceString(pos, pos + 1) === sign ? pos + 1 : pos;
}

const PLACE = Decoration.mark({ class: 'sentence-place' });
const HIDDEN = Decoration.replace({});

/** Values that travel are chips; their braces are seen while the cursor is in them, to be edited. */
function drawPlaces({ state, visibleRanges, hasFocus }: EditorView): DecorationSet {
  const drawn: Range<Decoration>[] = [];
  for (const { from, to } of visibleRanges)
    for (const { index, 0: text } of state.sliceDoc(from, to).matchAll(/\{[^{}\n]+\}/g)) {
      const [start, end] = [from + index, from + index + text.length];
      drawn.push(PLACE.range(start, end));
      if (hasFocus && state.selection.ranges.some((range) => range.from <= end && range.to >= start)) continue;
      drawn.push(HIDDEN.range(start, start + 1), HIDDEN.range(end - 1, end));
    }
  return Decoration.set(drawn, true);
}

const PLACES = ViewPlugin.fromClass(
  class {
    places: DecorationSet;
    constructor(view: EditorView) {
      this.places = drawPlaces(view);
    }
    update({ view, docChanged, viewportChanged, selectionSet, focusChanged }: ViewUpdate) {
      if (docChanged || viewportChanged || selectionSet || focusChanged) this.places = drawPlaces(view);
    }
  },
  { decorations: (plugin) => plugin.places },
);

const THEME = EditorView.theme({
  '&': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', fontSize: '14px', minHeight: '320px' },
  '&.cm-focused': { outline: '2px solid var(--baton)', outlineOffset: '4px', borderRadius: '4px' },
  '.cm-content:focus-visible': { outline: 'none' },
  '.cm-lineNumbers .cm-gutterElement': { lineHeight: '26.6px' },
  '.cm-content': { fontFamily: 'inherit', lineHeight: '1.9', caretColor: 'var(--ink)' },
  '.cm-scroller': { fontFamily: 'inherit' },
  '.cm-gutters': { backgroundColor: 'transparent', color: 'var(--soft)', border: '0', fontFamily: 'var(--font-mono)', fontSize: '13px' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-selectionBackground, &.cm-focused .cm-selectionBackground': { backgroundColor: 'var(--baton-tint)' },
  '.cm-tooltip': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', border: '1px solid var(--line)', borderRadius: '7px' },
  '.cm-tooltip-autocomplete > ul > li[aria-selected]': { backgroundColor: 'var(--baton-tint)', color: 'var(--baton-ink)' },
  '.cm-diagnostic-warning': { borderLeftColor: 'var(--failed)' },
  '.cm-diagnostic-hint': { borderLeftColor: 'var(--baton)' },
  '.cm-diagnosticAction': { backgroundColor: 'var(--deep)', color: 'var(--on-deep)', borderRadius: '5px', padding: '3px 8px' },
});
