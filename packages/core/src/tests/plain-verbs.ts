/**
 * The words that plain sentences begin with, and how each is read. A reading is finer than a step's action: *set* names the thing
 * first and the value behind it, *command* is a verb that stands on a button itself.
 */
const PLAIN_READINGS = [
  'go',
  'sign in',
  'enter',
  'set',
  'tick',
  'untick',
  'pick',
  'press',
  'command',
  'see',
  'keep',
  'ask',
  'wait',
] as const;
export type PlainReading = (typeof PLAIN_READINGS)[number];

const PHRASES: Readonly<Record<PlainReading, string>> = {
  go: 'go to, go back to, go into, open, open up, navigate to, browse to, launch, start, visit, switch to, return to, move to, access, call up, bring up, proceed to, expand',
  'sign in': 'sign in, log in, log on, login, sign on, logon',
  enter: 'enter, type, type in, key in, input, write, put, insert, fill in, fill out, fill, provide, specify, supply, give, paste, add',
  set: 'set, change, update, amend, edit, modify, adjust, increase, reduce, replace',
  tick: 'tick, mark, switch on, turn on, enable, activate',
  untick: 'untick, unmark, uncheck, deselect, switch off, turn off, disable, deactivate',
  pick: 'pick, select, choose, highlight, assign',
  press:
    'press, press on, click, click on, tap, tap on, push, hit, double click, double click on, double-click, double-click on, right click, right click on, right-click, right-click on, use',
  command:
    'save, submit, confirm, cancel, delete, print, approve, post, send, search for, search, create, release, accept, reject, complete, book, refresh, upload, download, export, close, log out, log off, sign out, run, execute, calculate, generate, remove, apply, continue, finish, issue, schedule, dispatch, filter, sort',
  see: 'see, see that, see if, see whether, check, double-check, double check, check that, check if, check whether, verify, verify that, verify whether, verify if, ensure, ensure that, make sure, make sure that, validate, validate that, confirm that, assert, assert that, expect, expect that, observe, observe that, notice, notice that, review, compare, inspect, look at, look for, look whether',
  keep: 'keep, note, note down, write down, record, remember, copy, make a note of, take note of, take down, jot down, read, read off, memorise, memorize, capture, retain',
  ask: 'ask, query, call',
  wait: 'wait for, wait until, wait till, wait',
};

/** Forms that no rule gives. */
const IRREGULAR: Readonly<Record<string, readonly string[]>> = {
  go: ['goes', 'went', 'going'],
  write: ['writes', 'wrote', 'written', 'writing'],
  choose: ['chooses', 'chose', 'chosen', 'choosing'],
  take: ['takes', 'took', 'taking'],
  see: ['sees', 'saw', 'seen', 'seeing'],
  keep: ['keeps', 'kept', 'keeping'],
  make: ['makes', 'made', 'making'],
  put: ['puts', 'putting'],
  set: ['sets', 'setting'],
  hit: ['hits', 'hitting'],
  log: ['logs', 'logged', 'logging'],
  read: ['reads', 'reading'],
  run: ['runs', 'ran', 'running'],
  send: ['sends', 'sent', 'sending'],
  bring: ['brings', 'brought'],
  give: ['gives', 'gave', 'given', 'giving'],
  cancel: ['cancels', 'cancelled', 'canceled', 'cancelling'],
  submit: ['submits', 'submitted', 'submitting'],
  tap: ['taps', 'tapped', 'tapping'],
  jot: ['jots', 'jotted'],
};

interface Verb {
  readonly phrase: string;
  /** What follows the first word, with the blank before it; empty for a verb of one word. */
  readonly tail: string;
  readonly reading: PlainReading;
}

/** By first word; the longest phrase first. */
const BY_FIRST = new Map<string, Verb[]>();

function toForms(verb: string): string[] {
  const irregular = IRREGULAR[verb];
  if (irregular) return [verb, ...irregular];
  const ending = /(?:s|sh|ch|x)$/.test(verb) ? 'es' : 's';
  if (verb.endsWith('e')) return [verb, `${verb}s`, `${verb}d`, `${verb.slice(0, -1)}ing`];
  if (/[^aeiou]y$/.test(verb)) return [verb, `${verb.slice(0, -1)}ies`, `${verb.slice(0, -1)}ied`, `${verb}ing`];
  return [verb, `${verb}${ending}`, `${verb}ed`, `${verb}ing`];
}

for (const reading of PLAIN_READINGS) {
  for (const phrase of PHRASES[reading].split(', ')) {
    const [first = '', ...rest] = phrase.split(' ');
    for (const form of toForms(first)) {
      const verbs = BY_FIRST.get(form) ?? [];
      if (verbs.length === 0) BY_FIRST.set(form, verbs);
      verbs.push({ phrase: [form, ...rest].join(' '), tail: rest.map((word) => ` ${word}`).join(''), reading });
    }
  }
}
for (const verbs of BY_FIRST.values()) verbs.sort((a, b) => b.phrase.length - a.phrase.length);

/** The verb that a text begins with, and what stands behind it; undefined when it begins with none that is known. */
export function findPlainVerb(text: string): { reading: PlainReading; verb: string; rest: string } | undefined {
  const blank = text.indexOf(' ');
  const word = (blank < 0 ? text : text.slice(0, blank)).toLowerCase();
  const verbs = BY_FIRST.get(word);
  if (!verbs) return undefined;
  for (const { phrase, tail, reading } of verbs) {
    const end = phrase.length;
    if (tail !== '' && !hasTail(text, tail, end)) continue;
    return { reading, verb: phrase, rest: text.slice(end).trim() };
  }
  return undefined;
}

/** Whether the phrase that ends at `end` ends with `tail`, and a blank or nothing follows. */
function hasTail(text: string, tail: string, end: number): boolean {
  const next = text.charCodeAt(end);
  return (next === 32 || Number.isNaN(next)) && text.slice(end - tail.length, end).toLowerCase() === tail;
}
