import type { StepCheck } from './step-checks.ts';
import { getCheckFacts, STEP_CHECKS } from './step-checks.ts';
import { findVerb } from './step-verbs.ts';
import type { Step, StepAction } from './step.ts';
import { foldSpace, normalizeStep, getActionFacts, STEP_ACTIONS } from './step.ts';

/** A step read from a sentence, or a sentence that says why it could not be read. */
export type StepReading = { readonly ok: true; readonly step: Step } | { readonly ok: false; readonly message: string };

const QUOTED = /^["“„”]((?:\\.|[^\\"“”])*)["“”]/;
const PLACE = /^\{[^{}]+\}/;
const EXPECT = /(?:[.;,]|^)?\s*(?:you should see(?: that)?:?|→|->|=>)\s*/i;
/** What is said of a thing that is seen; those that compare are followed by a value. */
const SAID: readonly (readonly [StepCheck, RegExp])[] = [
  ['not there', /^,?\s*(?:is |are )?(?:not|no longer) (?:there|shown|visible)(?![\p{L}])/iu],
  ['all different', /^,?\s*(?:are )?all different(?![\p{L}])/iu],
  ['none empty', /^,?\s*(?:none|not any)(?: is)? empty(?![\p{L}])/iu],
  ['not showing', /^,?\s*(?:not showing|does not show|is not|without)\s+/i],
  ['containing', /^,?\s*(?:containing|contains)\s+/i],
  ['at least', /^,?\s*(?:is |of )?at least\s+/i],
  ['at most', /^,?\s*(?:is |of )?at most\s+/i],
  ['counting', /^,?\s*(?:counting|count is|counts)\s+/i],
  ['with headings', /^,?\s*(?:with (?:the )?headings|headings are)\s+/i],
];
const SECONDS = /^,?\s*within\s+(\d{1,3})\s*(?:s|sec|secs|seconds?)(?![\p{L}])/iu;
const CONNECTORS: readonly (readonly [Slot, RegExp])[] = [
  ['keepAs', /^,?\s*(?:and\s+)?(?:keep (?:it )?as|as)\s+/i],
  ['beside', /^,?\s*(?:beside|next to|in (?:the|a) row with)\s+(?:the\s+)?/i],
  ['within', /^,?\s*(?:in(?:side)?|on|within|of)\s+(?:the\s+)?/i],
  ['value', /^,?\s*(?:with|showing|is|shows|to|=|:)\s+/i],
];
const PLAIN_STOP =
  /,?\s+(?:not (?:there|shown|visible|showing)|no longer|does not show|all different|none empty|containing|contains|at least|at most|counting|count is|keep (?:it )?as|in|inside|on|within|beside|next to|with|showing|shows|is|as|to)\s+/i;

type Slot = 'within' | 'beside' | 'value' | 'keepAs';
interface Rest {
  readonly text: string;
  readonly rest: string;
}

/**
 * Reads one sentence generously: quoted or plain names, the verbs of step-verbs.ts, clauses in any order.
 * What `printStep` writes is read back to the same step. Cost O(length).
 */
export function parseStep(sentence: string): StepReading {
  const line = foldSpace(sentence);
  const uniform = parseUniformStep(line);
  return uniform ? { ok: true, step: uniform } : parseFreely(line);
}

const NAME = '"((?:[^"\\\\]|\\\\.)*)"';
const CHECKS = STEP_CHECKS.map((check) => ({ check, ...getCheckFacts(check) }));
const BARE_CHECKS = CHECKS.flatMap(({ check, takesValue }) => (takesValue ? [] : [check]));
/** The longest first: *with headings* before *with*. */
const VALUE_WORDS = [...CHECKS.flatMap(({ check, takesValue }) => (takesValue ? [check] : [])), 'with', 'showing'];
const isCheck = (word: string | undefined): word is StepCheck => STEP_CHECKS.some((check) => check === word);
const UNIFORM = new RegExp(
  `^(?:As ${NAME}: )?([Oo]ptionally )?([Gg]o to|[Ff]ill|[Pp]ick|[Pp]ress|[Ss]ee|[Kk]eep|[Ww]ait for|[Aa]sk|[Bb]y hand) ${NAME}(?: in ${NAME})?(?: beside ${NAME})?` +
    `(?: (${VALUE_WORDS.join('|')}) (?:${NAME}|(\\{[^{}]+\\})))?(?: (${BARE_CHECKS.join('|')}))?(?:, within (\\d{1,3}) seconds)?` +
    `(?:, keep as ${NAME})?\\.?(?: You should see: (.+))?$`,
);
const ACTION_OF = new Map(STEP_ACTIONS.map((action) => [getActionFacts(action).word.toLowerCase(), action]));

function unescape(text: string | undefined): string | undefined {
  return text?.includes('\\') ? text.replace(/\\(.)/g, '$1') : text;
}

/** What `printStep` wrote, in one look: most of what is parsed. Undefined for anything else. Cost O(length). */
export function parseUniformStep(line: string): Step | undefined {
  const found = UNIFORM.exec(line);
  const action = found?.[3] === undefined ? undefined : ACTION_OF.get(found[3].toLowerCase());
  if (!found || !action) return undefined;
  return normalizeStep({
    do: action,
    target: unescape(found[4]) ?? '',
    as: unescape(found[1]),
    optional: found[2] !== undefined,
    within: unescape(found[5]),
    beside: unescape(found[6]),
    value: unescape(found[8]) ?? found[9],
    check: isCheck(found[7]) ? found[7] : isCheck(found[10]) ? found[10] : undefined,
    seconds: found[11] === undefined ? undefined : Number(found[11]),
    keepAs: unescape(found[12]),
    expect: found[13],
  });
}

/** Quoted or plain names, clauses in any order; for a folded line. */
function parseFreely(line: string): StepReading {
  if (line === '') return { ok: false, message: 'The sentence is empty.' };
  const { main, expect } = splitExpect(line);
  const { as, optional, rest } = readHead(main);
  const verb = findVerb(rest);
  if (!verb) {
    return { ok: false, message: `“${line.slice(0, 60)}” does not begin with a verb such as go, fill, pick, press, see, keep or wait.` };
  }
  return readBody(rest.slice(verb.length).trim(), { do: verb.action, as, optional, expect });
}

function splitExpect(line: string): { main: string; expect: string | undefined } {
  let from = 0;
  for (;;) {
    const match = EXPECT.exec(line.slice(from));
    if (!match) return { main: line, expect: undefined };
    const at = from + match.index;
    if (!isInsideQuotes(line, at)) return { main: line.slice(0, at), expect: line.slice(at + match[0].length) };
    from = at + Math.max(match[0].length, 1);
  }
}

function isInsideQuotes(line: string, at: number): boolean {
  let inside = false;
  for (let i = 0; i < at; i += 1) {
    if (line[i] === '\\') i += 1;
    else if (line[i] === '"') inside = !inside;
  }
  return inside;
}

function readHead(main: string): { as: string | undefined; optional: boolean; rest: string } {
  let rest = main.trim();
  let as: string | undefined;
  const persona = /^as\s+(?:an?\s+)?/i.exec(rest);
  if (persona) {
    const name = takeName(rest.slice(persona[0].length), /\s*[:,]\s*/);
    as = name.text;
    rest = name.rest.replace(/^\s*[:,]\s*/, '');
  }
  const optionally = /^(?:optionally|if possible,?)\s+/i.exec(rest);
  return { as, optional: optionally !== null, rest: optionally ? rest.slice(optionally[0].length) : rest };
}

/** Takes a quoted name, a place in braces, or plain words up to `stop`. */
function takeName(text: string, stop: RegExp): Rest {
  const quoted = QUOTED.exec(text);
  if (quoted) return { text: (quoted[1] ?? '').replace(/\\(.)/g, '$1'), rest: text.slice(quoted[0].length) };
  const place = PLACE.exec(text);
  if (place) return { text: place[0], rest: text.slice(place[0].length) };
  const end = stop.exec(text)?.index ?? text.length;
  return {
    text: text
      .slice(0, end)
      .replace(/[.;]\s*$/, '')
      .trim(),
    rest: text.slice(end),
  };
}

interface Opening {
  readonly do: StepAction;
  readonly as: string | undefined;
  readonly optional: boolean;
  readonly expect: string | undefined;
}

const ROW = /^(?:that\s+)?(?:an?\s+|the\s+)?row\s+with\s+/i;
const ROW_SHOWS = /^,?\s*(?:shows|showing|has|says)\s+/i;

const ROW_IN = /^,?\s*(?:in|of)\s+(?:the\s+)?/i;
const ROW_STOP = /,?\s+(?:in|of|shows|showing|has|says)\s+/i;

interface RowRead {
  readonly target: Rest;
  readonly slots: Partial<Record<Slot, string>>;
}

/** “A row with X in Z shows Y” is that Y stands beside X; where nothing is said to be shown, that X is there. */
function readRow(body: string): RowRead | undefined {
  const row = ROW.exec(body);
  if (!row) return undefined;
  const marked = takeName(body.slice(row[0].length), ROW_STOP);
  const held = ROW_IN.exec(marked.rest.trimStart());
  const within = held && takeName(marked.rest.trimStart().slice(held[0].length), ROW_STOP);
  const rest = (within?.rest ?? marked.rest).trimStart();
  const shows = ROW_SHOWS.exec(rest);
  if (!shows) return { target: marked, slots: {} };
  const slots = { beside: marked.text, ...(within ? { within: within.text } : {}) };
  return { target: takeName(rest.slice(shows[0].length), PLAIN_STOP), slots };
}

function readBody(body: string, opening: Opening): StepReading {
  const row = opening.do === 'see' || opening.do === 'wait' ? readRow(body) : undefined;
  const target = row?.target ?? takeName(body.replace(/^the\s+/i, ''), PLAIN_STOP);
  const slots: Partial<Record<Slot, string>> = { ...row?.slots };
  const said: { check?: StepCheck; seconds?: number } = {};
  const maySay = opening.do === 'see' || opening.do === 'wait';
  let rest = target.rest;
  while (!/^\s*\.?\s*$/.test(rest)) {
    const trimmed = rest.trimStart();
    const seconds = maySay ? SECONDS.exec(trimmed) : null;
    if (seconds) {
      said.seconds = Number(seconds[1]);
      rest = trimmed.slice(seconds[0].length);
      continue;
    }
    const [check, words] = (maySay && SAID.find(([, pattern]) => pattern.test(trimmed))) || [];
    if (check && words && said.check === undefined && slots.value === undefined) {
      said.check = check;
      rest = trimmed.slice(words.exec(trimmed)?.[0].length ?? 0);
      if (!getCheckFacts(check).takesValue) continue;
      const value = takeName(rest, PLAIN_STOP);
      slots.value = value.text;
      rest = value.rest;
      continue;
    }
    const found = CONNECTORS.find(([, connector]) => connector.test(trimmed));
    const connector = found?.[1].exec(trimmed);
    if (!found || !connector) return { ok: false, message: `“${trimmed.slice(0, 40)}” was not understood.` };
    const name = takeName(trimmed.slice(connector[0].length), PLAIN_STOP);
    const slot = found[0] === 'keepAs' && opening.do !== 'keep' && /^,?\s*as\s/i.test(connector[0]) ? 'value' : found[0];
    if (slots[slot] !== undefined) return { ok: false, message: `“${trimmed.slice(0, 40)}” says the same thing twice.` };
    slots[slot] = name.text;
    rest = name.rest;
  }
  if (target.text === '') return { ok: false, message: `The sentence does not say what to ${opening.do}.` };
  return { ok: true, step: normalizeStep({ ...opening, target: target.text, ...slots, ...said }) };
}
