import type { PlainReading } from './plain-verbs.ts';
import { findPlainVerb } from './plain-verbs.ts';
import { readExpectation } from './read-plain-expectation.ts';
import { isTarget, splitList, stripFinalMarks, toName, toPlace, toValue } from './plain-names.ts';
import { hasSign, isSign, resolveSigns, SIGN } from './quoted-parts.ts';
import type { SignedText } from './quoted-parts.ts';
import type { Step } from './step.ts';
import { normalizeStep } from './step.ts';

interface Clause {
  /** The verb as it stands, in small letters. */
  readonly verb: string;
  /** What stands behind it, with signs for its quoted parts. */
  readonly body: string;
  readonly signed: SignedText;
}

type Reader = (clause: Clause) => Step[] | undefined;

/** One action, or one thing that is to be seen; undefined when it is not understood. */
export function readClause(text: string, signed: SignedText): Step[] | undefined {
  const clause = stripFinalMarks(text);
  const found = findPlainVerb(clause);
  if (!found) return readExpectation(clause, signed);
  const steps = READERS[found.reading]({ verb: found.verb, body: found.rest, signed });
  return steps?.map(normalizeStep);
}

const VALUE_BEHIND = /^(.+?)\s*(?::|=)\s*(.+)$/;
const WITH = /^(.+?)\s+with\s+(?:the\s+value\s+)?(.+)$/i;
const INTO = /^(.+?)\s+(into|onto|in|to|for|as|at|on|inside|under|against)\s+(.+)$/i;
const PURPOSE = /(?<!\bnext|\bright|\bleft)\s+(?:in order to|so that|so as to|to)\s+(.+)$/i;
const TRIVIAL_PURPOSE = /^(?:continue|proceed|go on|move on|finish)$/i;

const enter: Reader = ({ verb, body, signed }) => {
  if (body === '' || /^(?:it|them|this|that)\s/i.test(body)) return undefined;
  const behind = VALUE_BEHIND.exec(body) ?? (/^fill|^provide|^supply/.test(verb) || !/\s(?:into|in)\s/.test(body) ? WITH.exec(body) : null);
  if (behind) return [fill(behind[1] ?? '', behind[2] ?? '', signed)];
  const [, before = '', word = '', after = ''] = INTO.exec(body) ?? [];
  if (before !== '' && !(word === 'for' && isTarget(before))) {
    if (word === 'as') return [isTarget(before) && !isTarget(after) ? fill(before, after, signed) : fill(after, before, signed)];
    return [
      isTarget(before) && !namesWidget(after)
        ? { do: 'fill', target: toName(before, signed), within: toPlace(after, signed) }
        : fill(after, before, signed),
    ];
  }
  if (isSign(body)) {
    const name = toValue(body, signed);
    return name.startsWith('{') ? [{ do: 'fill', target: name.slice(1, -1), value: name }] : undefined;
  }
  if (/^[\d.,\s%]+$/.test(body)) return undefined;
  return splitList(body).map((piece) => fillOne(piece, signed));
};

/** “the plant 1000”, “a quantity of 5”: what it is, then its value. */
function fillOne(text: string, signed: SignedText): Step {
  const [, what, value] = WHAT_AND_VALUE.exec(text) ?? [];
  return what === undefined || value === undefined ? { do: 'fill', target: toName(text, signed) } : fill(what, value, signed);
}

const WHAT_AND_VALUE = new RegExp(`^(?:the\\s+|an?\\s+)?([a-z][a-z -]*?)\\s+(?:of\\s+)?(${SIGN}|\\d\\S*|[A-Z]{2,}\\S*)$`);
const WHAT_AND_WHICH = new RegExp(
  `^(?:the|an?)\\s+((?!(?:option|value|entry|item|tab|button|link|box|menu|field|check ?box|icon)\\s)[a-z][a-z ]*?)\\s+([A-Z${SIGN.slice(1, -1)}]\\S*)$`,
);
const WIDGET_WORD = /\b(?:field|box|column|cell|input|line|textbox|prompt)\b/i;
const namesWidget = (text: string) => hasSign(text) || WIDGET_WORD.test(text);

/** A thing, perhaps with the place that holds it behind *in*: “the width in the Details tab”. */
function fill(target: string, value: string, signed: SignedText): Step {
  const held = /^(.+?)\s+(?:in|on|of)\s+((?:the\s+)?.+?\s(?:page|screen|window|dialog|form|tab|panel|section|area|table|list))$/i.exec(
    target,
  );
  return {
    ...{ do: 'fill', target: toName(held?.[1] ?? target, signed), value: toValue(value, signed) },
    ...(held?.[2] === undefined ? {} : { within: toPlace(held[2], signed) }),
  };
}

const set: Reader = ({ verb, body, signed }) => {
  const changed = /^(.+?)\s+from\s+(.+?)\s+to\s+(.+)$/i.exec(body);
  if (changed) return [fill(changed[1] ?? '', changed[3] ?? '', signed)];
  const found = /^(.+?)\s+(?:to|with|as)\s+(.+)$/i.exec(body) ?? VALUE_BEHIND.exec(body);
  if (found) return [fill(found[1] ?? '', found[2] ?? '', signed)];
  return /^(?:edit|modif|chang|updat|amend)/.test(verb) && body !== '' ? command({ verb, body, signed }) : undefined;
};

const tick: Reader = ({ body, signed }) => {
  if (body === '') return undefined;
  const [, target, state] = /^(.+?)\s+as\s+(.+)$/i.exec(body) ?? [];
  const { name, within } = hold(target ?? body, signed);
  return [{ do: 'pick', target: name, within, value: state === undefined ? 'yes' : toValue(state, signed) }];
};

const untick: Reader = ({ body, signed }) => {
  if (body === '') return undefined;
  const { name, within } = hold(body, signed);
  return [{ do: 'pick', target: name, within, value: 'no' }];
};

const pick: Reader = ({ verb, body: whole, signed }) => {
  const { body, expect } = takePurpose(whole, verb.startsWith('assign'));
  if (body === '') return undefined;
  const behind = VALUE_BEHIND.exec(body);
  if (behind) return [{ do: 'pick', target: toName(behind[1] ?? '', signed), value: toValue(behind[2] ?? '', signed) }];
  const [, before = '', word = '', after = ''] = /^(.+?)\s+(from|out of|in|on|under|within|as|for|to)\s+(.+)$/i.exec(body) ?? [];
  if (before === '') return [{ ...pickOne(body, signed), expect }];
  const isNamed = isTarget(before) && !/^the\s+(?:value|option|entry|item)\s/i.test(before);
  if (word === 'as' || word === 'to')
    return [
      isNamed || word === 'to'
        ? { do: 'pick', target: toName(before, signed), value: toValue(after, signed), expect }
        : { do: 'pick', target: toName(after, signed), value: toValue(before, signed), expect },
    ];
  return [
    isNamed && word !== 'for'
      ? { ...pickOne(before, signed), within: toPlace(after, signed), expect }
      : isNamed
        ? { do: 'pick', target: toName(body, signed), expect }
        : { do: 'pick', target: toListName(after, signed), value: toValue(before, signed), expect },
  ];
};

/** “the depot North”: what it is, then which one. */
function pickOne(text: string, signed: SignedText): Step {
  const [, what, which] = WHAT_AND_WHICH.exec(text) ?? [];
  return what === undefined || which === undefined
    ? { do: 'pick', target: toName(text, signed) }
    : { do: 'pick', target: toName(what, signed), value: toValue(which, signed) };
}

const toListName = (text: string, signed: SignedText) => toName(text.replace(/(?<=[A-Z]\S*)\s+list$/, ''), signed);

/** Why something is pressed is kept as what should come of it. */
function takePurpose(whole: string, isKept = false): { body: string; expect: string | undefined } {
  const purpose = isKept ? null : PURPOSE.exec(whole);
  if (!purpose || hasSign(purpose[1] ?? '')) return { body: whole, expect: undefined };
  const why = purpose[1] ?? '';
  return { body: whole.slice(0, purpose.index), expect: TRIVIAL_PURPOSE.test(why) ? undefined : why };
}

/** A thing and where it stands. */
function hold(text: string, signed: SignedText): { name: string; within: string | undefined; beside: string | undefined } {
  const beside = /^(.+?)\s+(?:beside|next to|opposite|to the (?:right|left) of)\s+(.+)$/i.exec(text);
  if (beside) return { name: toName(beside[1] ?? '', signed), within: undefined, beside: toName(beside[2] ?? '', signed) };
  const held = /^(.+?)\s+(?:in|on|at|within|under|inside|from)\s+(.+)$/i.exec(text);
  if (held) return { name: toName(held[1] ?? '', signed), within: toPlace(held[2] ?? '', signed), beside: undefined };
  return { name: toName(text, signed), within: undefined, beside: undefined };
}

const press: Reader = ({ body: whole, signed }) => {
  const { body, expect } = takePurpose(whole.replace(/^(?:on|the)\s+/i, ''));
  if (body === '') return undefined;
  const repeated = /^(.+?)\s+(twice|again|once|once more)$/i.exec(body);
  const { name, within, beside } = hold(repeated?.[1] ?? body, signed);
  const step: Step = { do: 'press', target: name, within, beside, expect };
  return repeated?.[2]?.toLowerCase() === 'twice' ? [step, step] : [step];
};

const PRONOUN = /^(?:it|them|this|that|everything|all|(?:the|your|all)\s+(?:changes?|data|entries|entry|form|record))$/i;
const NOTHING = /^(?:nothing|anything|something)$/i;
const BASE_FORMS: Readonly<Record<string, string>> = { run: 'Run', send: 'Send' };

/** A verb that stands on a button: “save the quote” presses *Save* in the quote. */
const command: Reader = ({ verb, body, signed }) => {
  const [first = ''] = verb.split(' ');
  const base = toBase(first) + verb.slice(first.length).replace(/ for$/, '');
  const target = BASE_FORMS[base] ?? base.charAt(0).toUpperCase() + base.slice(1);
  if (body === '' || PRONOUN.test(body)) return [{ do: 'press', target }];
  if (QUESTION_FIRST.test(body)) return ask({ verb, body, signed });
  if (/^search/.test(base)) {
    const said = body.replace(/^for\s+/i, '');
    return [{ do: 'press', target, value: toValue(said, signed) }];
  }
  const by = /^(.+?)\s+(?:by|with)\s+(.+)$/i.exec(body);
  if (by) return [{ do: 'press', target, within: toName(by[1] ?? '', signed), value: toValue(by[2] ?? '', signed) }];
  return NOTHING.test(body) ? undefined : [{ do: 'press', target, within: toName(body, signed) }];
};

/** The verb as it stands on a button: saves, saved, saving → save. */
function toBase(form: string): string {
  for (const ending of ['', 's', 'es', 'd', 'ed', 'ing']) {
    if (!form.endsWith(ending)) continue;
    const stem = form.slice(0, form.length - ending.length);
    const candidates = ending === '' ? [stem] : [stem, `${stem}e`, stem.replace(/(.)\1$/, '$1'), stem.replace(/i$/, 'y')];
    const base = candidates.find((candidate) => BASES.has(candidate));
    if (base) return base;
  }
  return form;
}

const BASES = new Set(
  'save submit confirm cancel delete print approve post send search create release accept reject complete book refresh upload download export close log sign run execute calculate generate remove apply continue finish issue schedule dispatch filter sort edit modify change update amend'.split(
    ' ',
  ),
);

const go: Reader = ({ verb, body: whole, signed }) => {
  const { body, expect } = takePurpose(whole);
  if (body === '') return undefined;
  const [, place = '', persona] = /^(.+?)\s+as\s+(?:an?\s+|the\s+)?(.+)$/i.exec(body) ?? [undefined, body];
  if (verb.startsWith('open') || verb.startsWith('expand')) {
    const { name, within, beside } = hold(place, signed);
    return [
      {
        do: 'go',
        target: within === undefined && beside === undefined ? toPlace(place, signed) : name,
        within,
        beside,
        as: persona,
        expect,
      },
    ];
  }
  const [, held, holder] = /^(.+?)\s+(?:in|on)\s+(.+)$/i.exec(place) ?? [];
  return held === undefined
    ? [{ do: 'go', target: toPlace(place, signed), as: persona, expect }]
    : [{ do: 'go', target: toPlace(held, signed), within: toPlace(holder ?? '', signed), as: persona, expect }];
};

const signIn: Reader = ({ body, signed }) => {
  const [, place = '', who] = /^(?:(?:to|into|in to|on to|onto)\s+)?(.*?)\s*(?:\b(?:as|with)\s+(?:an?\s+|the\s+)?(.+))?$/i.exec(body) ?? [];
  return [
    {
      do: 'go',
      target: place === '' ? 'Sign-in' : toPlace(place, signed),
      as: who === undefined ? undefined : toValue(who.replace(/^user(?:name)?\s+/i, ''), signed),
    },
  ];
};

const see: Reader = ({ body, signed }) => readExpectation(body, signed, { isAsked: true });

const keep: Reader = ({ body: whole, signed }) => {
  const body = whole
    .replace(
      /\s+(?:for (?:later|future|further|the next)\b.*|(?:that|which)\s+.*|(?:shown|displayed|given|generated|assigned)(?:\s+by.*)?)$/i,
      '',
    )
    .trim();
  if (body === '' || /\s(?:into|to)\s/i.test(body)) return undefined;
  const [, what = body, name] = /^(.+?)\s+(?:as|under(?:\s+the\s+name)?)\s+(.+)$/i.exec(body) ?? [];
  const keepOne = (text: string): Step => {
    const { name: target, within } = hold(text, signed);
    return { do: 'keep', target, within, keepAs: name === undefined ? undefined : toName(name, signed) };
  };
  return name === undefined ? splitList(what).map(keepOne) : [keepOne(what)];
};

const REQUEST = '(?:GET|HEAD|POST|PUT|PATCH|DELETE)\\s+/\\S*';
const DOOR_FIRST = new RegExp(`^(.+?)\\s*(?:\\sfor|\\swith|:)\\s*(${REQUEST}|(?:select|with|values)\\s.+)$`, 'i');
const QUESTION_FIRST = new RegExp(`^(${REQUEST})(?:\\s+(?:in|on|at|from|of|to)\\s+(.+))?$`, 'i');

/** Only where a method and a path, or a statement, stand in it: “ask the customer” is for people. */
const ask: Reader = ({ body, signed }) => {
  const [, before, question] = DOOR_FIRST.exec(body) ?? [];
  if (before !== undefined && question !== undefined)
    return [{ do: 'ask', target: resolveSigns(question, signed), within: toDoor(before, signed) }];
  const [, first, door] = QUESTION_FIRST.exec(body) ?? [];
  if (first === undefined) return undefined;
  return [{ do: 'ask', target: resolveSigns(first, signed), within: door === undefined ? undefined : toDoor(door, signed) }];
};

const toDoor = (text: string, signed: SignedText) => toName(text.replace(/^(?:the|an?)\s+/i, ''), signed);

const wait: Reader = ({ body, signed }) => (body === '' ? undefined : [{ do: 'wait', target: toName(body, signed) }]);

const READERS: Readonly<Record<PlainReading, Reader>> = {
  ...{ go, 'sign in': signIn, enter, set, tick, untick, pick, press, command, see, keep, ask, wait },
};
