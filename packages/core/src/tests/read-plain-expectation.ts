import { splitList, toName, toPlace, toValue } from './plain-names.ts';
import type { SignedText } from './quoted-parts.ts';
import { hasSign, SIGN } from './quoted-parts.ts';
import type { StepCheck } from './step-checks.ts';
import type { Step } from './step.ts';

const STATE =
  /^(.+?)\s+(?:is|are|was|were|gets?|becomes?|remains?|stays?|should be|must be|will be|has been|have been|to be|can be)\s+((?:not|no longer)\s+)?(?:(?:now|still|also|automatically|correctly|then|properly)\s+)*(?:displayed|shown|visible|present|available|listed|there|seen|found)(?:\s+(?:in|on|under|at|within|below|above)\s+(.+))?$/i;
const APPEAR =
  /^(.+?)\s+(?:(?:should|must|will)\s+)?((?:does not|do not|doesn['’]t|don['’]t|not)\s+)?(?:appears?|opens|pops? up|comes? up|loads|exists?|shows? up)(?:\s+(?:in|on|under|at|within)\s+(.+))?$/;
const EQUALS =
  /^(.+?)\s+(?:(?:should|must|will)\s+(?:now\s+)?)?(is not|are not|is set to|is equal to|are equal to|is now|is still|is|are|was|were|be|equals?|equal to|shows?|displays?|reads?|says?|contains?|contain|has been|have been|has the value|has value|has status|has the status|changes? to|has changed to|have changed to|changes? from .+? to|remains?|stays?|becomes?|matches|match|includes?|has|have)\s+(.+)$/i;
const SYSTEM =
  /^(?:the\s+)?(?:system|application|app|program|software|screen|page|window|form|dialog)\s+(?:(?:should|must|will)\s+)?(?:shows?|displays?|opens?|presents?|lists?|asks? for|prompts? for|returns?|gives?)\s+(.+)$/i;
const SIGNED_TEXT = new RegExp(
  `^(?:the\\s+|an?\\s+)?((?:[a-z]+\\s+)?(?:message|warning|error|text|notice|hint|title|heading|status|label|value))\\s*:?\\s*(${SIGN})(?:\\s+(?:is|are)\\s+(?:displayed|shown|visible)|\\s+appears)?(?:\\s+(?:in|on|at)\\s+(.+))?$`,
  'i',
);
/** Something that stands in the same row as something else. */
const ROW_SHOWS = /^(?:an?\s+|the\s+)?row\s+with\s+(.+?)\s+(?:shows|has|says|displays)\s+(.+)$/i;
const NOT_A_THING = /^(?:it|this|that|there|which|what|if|when|once|because|since|note)\b/i;

/**
 * What should be seen: a thing that is there, or a thing with a value. `isAsked` when a verb such as *check* stands before it; a bare
 * name is enough then.
 */
export function readExpectation(text: string, signed: SignedText, { isAsked = false } = {}): Step[] | undefined {
  const said = text.replace(/^(?:that|if|whether)\s+/i, '');
  const body = said.replace(/^there (?:is|are)\s+(?=\S)/i, '');
  const isNamed = isAsked || body !== said;
  if (body === '' || NOT_A_THING.test(body)) return undefined;
  const place = /^(?:you are|one is|i am|we are) (?:now |still )?(?:on|in|at)\s+(.+)$/i.exec(body);
  if (place) return [{ do: 'see', target: toPlace(place[1] ?? '', signed) }];
  if (/^(?:you|we|i)\s/i.test(body)) return undefined;
  const message = SIGNED_TEXT.exec(body);
  if (message) return [toSee(message[1] ?? '', signed, { value: message[2], within: message[3] })];
  const system = SYSTEM.exec(body);
  if (system && !/^(?:screen|page|form|window|dialog)/i.test(body)) return readExpectation(system[1] ?? '', signed, { isAsked: true });
  const [, marked, shown] = ROW_SHOWS.exec(body) ?? [];
  if (marked !== undefined && shown !== undefined) return [{ do: 'see', target: toValue(shown, signed), beside: toValue(marked, signed) }];
  const there = STATE.exec(body) ?? APPEAR.exec(body);
  if (there) {
    const isGone = there[2] !== undefined || /^no\s/i.test(there[1] ?? '');
    return splitList((there[1] ?? '').replace(/^no\s+/i, '')).map((name) =>
      toSee(name, signed, { check: isGone ? 'not there' : undefined, within: there[3] }),
    );
  }
  const equal = EQUALS.exec(body);
  if (equal) return readEqual(equal, signed);
  const sign = /^(.+?)\s*=\s*(.+)$/.exec(body);
  if (sign) return [toSee(sign[1] ?? '', signed, { value: sign[2] })];
  if (!isNamed) return undefined;
  const against = /^(.+?)\s+(?:with|against)\s+(.+)$/i.exec(body);
  if (against) return [toSee(against[1] ?? '', signed, { value: against[2] })];
  const held = /^(.+?)\s+(?:in|on|under|at)\s+(.+)$/i.exec(body);
  return [held ? toSee(held[1] ?? '', signed, { within: held[2] }) : toSee(body, signed, {})];
}

/** “The total and the tax are 10”: each of them is. Two clauses joined by *and* are two things to see. */
function readEqual([, subject = '', verb = '', value = '']: RegExpExecArray, signed: SignedText): Step[] {
  const isNot = /not$/i.test(verb);
  const second = /^(.+?)\s+and\s+((?:the\s+)?[^,]+?\s(?:is|are|shows?|equals?)\s.+)$/i.exec(value);
  const said = second?.[1] ?? value;
  const bound = BOUND.exec(said);
  const check = isNot
    ? 'not showing'
    : bound
      ? BOUNDS[bound[1]!.toLowerCase()]
      : /^(?:contains?|includes?)$/i.test(verb)
        ? 'containing'
        : undefined;
  const first = toSee(subject, signed, { value: bound && !isNot ? said.slice(bound[0].length) : said, check });
  const more = second?.[2] === undefined ? [] : (readExpectation(second[2], signed) ?? []);
  return [first, ...more];
}

/** “The total is at least 5”: no text that the screen shows, but a bound. */
const BOUND = /^(at least|no less than|not less than|at most|no more than|not more than)\s+(?=\S)/i;
const BOUNDS: Readonly<Record<string, StepCheck>> = {
  ...{ 'at least': 'at least', 'no less than': 'at least', 'not less than': 'at least' },
  ...{ 'at most': 'at most', 'no more than': 'at most', 'not more than': 'at most' },
};

interface Seen {
  readonly value?: string | undefined;
  readonly check?: StepCheck | undefined;
  readonly within?: string | undefined;
}

function toSee(target: string, signed: SignedText, { value, check, within }: Seen): Step {
  return {
    ...{ do: 'see', target: toName(target, signed) },
    ...(value === undefined ? {} : { value: hasSign(value) ? toValue(value, signed) : value.trim() }),
    ...(check === undefined ? {} : { check }),
    ...(within === undefined ? {} : { within: toPlace(within, signed) }),
  };
}
