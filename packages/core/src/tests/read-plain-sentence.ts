import { readClause } from './read-plain-clause.ts';
import { findPlainVerb } from './plain-verbs.ts';
import { parseUniformStep } from './parse-step.ts';
import type { SignedText } from './quoted-parts.ts';
import { resolveSigns, restoreQuotes, SIGN, signQuotedParts } from './quoted-parts.ts';
import { stripFinalMarks } from './plain-names.ts';
import { readExpectation } from './read-plain-expectation.ts';
import type { Step } from './step.ts';
import { foldSpace, normalizeStep } from './step.ts';

/** The steps that a sentence of ordinary English says; one that is not understood is one step by hand, in its own words. */
export interface PlainReadingOfSentence {
  readonly steps: readonly Step[];
  readonly isUnderstood: boolean;
}

const MOST_CHARACTERS = 500;
const NUMBERING = /^(?:(?:step\s*)?\(?\d{1,3}(?:\.\d{1,3})*[.):]\)?\s+|step\s+\d{1,3}\s*[-–:]?\s+|[-–*•]\s+)/i;
const KEYWORD = /^(?:given|when|then|and|but)(?:\s+that)?\s*,?\s+(?=\S)/i;
const FILLER =
  /^(?:please|now|next|then|first(?:ly)?|second(?:ly)?|third(?:ly)?|finally|lastly|afterwards|after that|also|again|(?:try|attempt|be sure|remember|make sure|ensure|it is possible)\s+to|go ahead and)\s*,?\s+/i;
const SUBJECT =
  /^(?:(?:i|we|you|they|he|she|one|someone|somebody)|(?:the\s+|an?\s+)?(?:(?:end|business|system|test)\s+)?(?:users?|testers?|person|operator))(?:'ll|’ll)?\s+/i;
const MODAL =
  /^(?:(?:should|must|can|could|will|shall|may|would|needs?|has|have|want|wants|am|are|is)\s+(?:(?:now|then|also|able|going|required|asked|like)\s+)*(?:to\s+)?)(?=[a-z])/i;
const OPTIONALLY = /^(?:optionally|if (?:possible|needed|necessary|required|applicable|wanted|desired|asked|prompted))\s*,?\s+/i;
const AS_PERSONA = /^as\s+(?:an?|the)\s+([^,:;.]{2,60}?)\s*[,:]\s*/i;
const ROLE =
  /(?:[a-z]{2}(?:er|or|ist|ant)|clerk|agent|lead|analyst|desk|team|staff|crew|customer|manager|supervisor|engineer|buyer|cashier)$/i;
const NO_ROLE =
  /(?:order|number|meter|letter|folder|header|footer|offer|register|counter|error|server|filter|router|printer|paper|tender)$/i;
const SENTENCE_END = new RegExp(`(?<!\\b(?:no|nr|e\\.g|i\\.e|approx|vs|incl|ref))[.!?;]\\s+(?=[A-Z${SIGN.slice(1, -1)}])`, 'g');
const EXPECTED = /^(?:expected(?: results?| outcome)?|result|expectation)\s*[:-]\s*/i;
const CONDITION = /^(?:if|when|once|unless|in case|whenever|as soon as|while|after|before|for each|for every|repeat)\s/i;
const CONNECTOR = /\s*(?:,?\s*\band then\b|,?\s*\bthen\b|;|,\s*and\b|\band\b|,|→|->|=>)\s+/gi;
/** “then Settings”: the verb before it holds for it too. */
const NAME_ALONE = new RegExp(`^(?:[A-Z]\\S*(?: \\S+){0,2}|${SIGN})$`);
/** “On the Details tab, enter the weight”: where, before what. */
const PLACE_FIRST = /^(?:on|in|at|under|into)\s+([^,]+?),\s*(.+)$/i;
/** Without any of these there is one clause; looking for them is quicker than for all connectors. */
const MAY_CONNECT = [' and ', ' then ', ',', ';', '→', '>'];
/** What a verb's object begins with; without it the word behind *and* may be a noun: “name and post code”. */
const OBJECT_START = new RegExp(
  `^(?:(?:the|an?|it|its|this|that|these|those|your|all|on|to|in|for|if|whether|as|down|up)\\b|[A-Z0-9${SIGN.slice(1, -1)}])`,
);

/**
 * Reads ordinary English generously: numbering, “the user should …”, verbs in any form, the value before or after the thing, several
 * actions in a sentence. Our own uniform sentences are read exactly. Nothing is dropped: what is not understood comes back as a
 * step by hand. Cost O(length).
 */
export function readPlainSentence(sentence: string): PlainReadingOfSentence {
  const line = foldSpace(sentence);
  if (line === '') return { steps: [], isUnderstood: true };
  const exact = line.includes('"') ? parseUniformStep(line) : undefined;
  if (exact) return { steps: [exact], isUnderstood: true };
  const own = line.replace(NUMBERING, '').trim() || line;
  const signed = signQuotedParts(own);
  const steps = readSentences(signed);
  return steps && steps.length > 0 && steps.every(isShort)
    ? { steps, isUnderstood: true }
    : { steps: [normalizeStep({ do: 'hand', target: own.replace(/<([^<>]{1,100})>/g, '{$1}') })], isUnderstood: false };
}

const isShort = ({ target, within = '', value = '', keepAs = '' }: Step) =>
  target.length > 0 && Math.max(target.length, within.length, keepAs.length) <= MOST_CHARACTERS && value.length <= 2_000;

/** Verbs that may only introduce one: “make sure to save”. */
const DOUBTFUL_START = /^(?:(?:make sure|ensure|remember) to|given)\s/i;

interface Opening {
  readonly text: string;
  readonly as: string | undefined;
  readonly optional: boolean | undefined;
  /** Nothing stood before the verb. */
  readonly startsWithVerb: boolean;
}

/** Takes away what stands before the verb. Who acts is kept when it is a role, not just “the user”. */
function open(text: string): Opening {
  if (findPlainVerb(text) && !DOUBTFUL_START.test(text)) return { text, as: undefined, optional: undefined, startsWithVerb: true };
  let rest = text.replace(KEYWORD, '');
  const persona = AS_PERSONA.exec(rest);
  let as = persona?.[1];
  if (persona) rest = rest.slice(persona[0].length);
  const optional = OPTIONALLY.exec(rest);
  if (optional) rest = rest.slice(optional[0].length);
  rest = stripFillers(rest);
  const role = findRole(rest);
  if (role) {
    as ??= role.name;
    rest = role.rest;
  } else {
    const subject = SUBJECT.exec(rest);
    if (subject) {
      const behind = rest.slice(subject[0].length).replace(MODAL, '');
      if (findPlainVerb(stripFillers(behind))) rest = stripFillers(behind);
    }
  }
  const [, place, action] = PLACE_FIRST.exec(rest) ?? [];
  if (place !== undefined && action !== undefined && findPlainVerb(action)) rest = `${action} in ${place}`;
  return { text: rest, as, optional: optional ? true : undefined, startsWithVerb: false };
}

function stripFillers(text: string): string {
  let rest = text;
  for (let next = rest.replace(FILLER, ''); next !== rest; next = rest.replace(FILLER, '')) rest = next;
  return rest;
}

/** “The crew planner opens …”: a role of one to three words, then a verb in the third person or behind *must*. */
function findRole(text: string): { name: string; rest: string } | undefined {
  const head = /^(?:the|an?|our)\s+/i.exec(text);
  if (!head) return undefined;
  const words = text.slice(head[0].length).split(' ');
  for (let count = 1; count <= 3 && count < words.length; count += 1) {
    const name = words.slice(0, count).join(' ');
    if (!/^[a-z][a-z -]*$/i.test(name) || !ROLE.test(name) || NO_ROLE.test(name)) continue;
    const behind = words.slice(count).join(' ');
    const rest = behind.replace(MODAL, '');
    const verb = findPlainVerb(rest);
    if (verb && verb.rest !== '' && (rest !== behind || /^[a-z]+s\b/i.test(rest)) && !/^(?:user|tester|operator)$/i.test(name))
      return { name, rest };
  }
  return undefined;
}

function splitSentences(text: string): string[] {
  if (!/[.!?;]\s/.test(text)) return [stripFinalMarks(text).trim()].filter((piece) => piece !== '');
  const pieces: string[] = [];
  let from = 0;
  for (const match of text.matchAll(SENTENCE_END)) {
    pieces.push(text.slice(from, match.index + 1));
    from = match.index + match[0].length;
  }
  pieces.push(text.slice(from));
  return pieces.map((piece) => stripFinalMarks(piece).trim()).filter((piece) => piece !== '');
}

function readSentences(signed: SignedText): Step[] | undefined {
  const steps: Step[] = [];
  for (const piece of splitSentences(signed.text)) {
    const expected = EXPECTED.exec(piece);
    const last = steps.at(-1);
    const says = expected ? piece.slice(expected[0].length) : piece;
    const { text, as, optional, startsWithVerb } = open(says);
    const isTelling = expected !== null || (!startsWithVerb && last !== undefined && isAction(last) && !findPlainVerb(text));
    if (isTelling && last) {
      steps[steps.length - 1] = withExpect(last, restoreQuotes(says, signed));
      continue;
    }
    if (!startsWithVerb && CONDITION.test(text)) return undefined;
    const read = readClauses(text, signed);
    if (!read) return undefined;
    for (const step of read)
      steps.push(
        as === undefined && !optional
          ? step
          : normalizeStep({ ...step, optional, as: as === undefined ? step.as : resolveSigns(as, signed) }),
      );
  }
  return steps;
}

const isAction = (step: Step) => step.do === 'go' || step.do === 'fill' || step.do === 'pick' || step.do === 'press';
const withExpect = (step: Step, expect: string): Step =>
  normalizeStep({ ...step, expect: step.expect === undefined ? expect : `${step.expect}; ${expect}` });

/** The actions of one sentence, split where a verb, or something to be seen, follows *and*, *then* or a comma. */
function readClauses(text: string, signed: SignedText): Step[] | undefined {
  if (!MAY_CONNECT.some((sign) => text.includes(sign))) return readClause(text, signed);
  const steps: Step[] = [];
  let from = 0;
  let verb = findPlainVerb(text)?.verb;
  for (const match of text.matchAll(CONNECTOR)) {
    const before = text.slice(from, match.index).trim();
    const tail = text.slice(match.index + match[0].length).trim();
    const isSame = verb !== undefined && /then/i.test(match[0]) && NAME_ALONE.test(tail);
    const follows = isSame ? 'action' : findFollower(match[0], tail, signed);
    if (before === '' || follows === 'nothing') continue;
    const read = readClause(stripFillers(before), signed);
    if (!read && follows === 'telling') continue;
    if (!read) return undefined;
    steps.push(...read);
    const last = steps.at(-1);
    if (follows === 'telling' && last && isAction(last)) {
      steps[steps.length - 1] = withExpect(last, restoreQuotes(tail, signed));
      return steps;
    }
    from = match.index + match[0].length;
    const next = open(tail).text;
    verb = findPlainVerb(next)?.verb ?? verb;
    if (isSame) return [...steps, ...(readClause(`${verb ?? ''} ${tail}`, signed) ?? [])];
  }
  const read = readClause(open(text.slice(from)).text, signed);
  return read && [...steps, ...read];
}

/** Whether another action begins behind a connector, or it tells what is then to be seen. */
function findFollower(connector: string, tail: string, signed: SignedText): 'action' | 'telling' | 'nothing' {
  if (/→|[-=]>/.test(connector)) return 'telling';
  if (startsAction(open(tail).text)) return 'action';
  return /^(?:the|an?|no)\s/i.test(tail) && readExpectation(stripFinalMarks(tail), signed) ? 'telling' : 'nothing';
}

function startsAction(tail: string): boolean {
  const verb = findPlainVerb(tail);
  if (!verb) return false;
  return verb.rest === '' ? verb.reading === 'command' || verb.reading === 'press' : OBJECT_START.test(verb.rest) || /\s/.test(verb.verb);
}
