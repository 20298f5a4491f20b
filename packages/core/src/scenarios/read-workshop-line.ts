import type { Field } from '../values/field.ts';
import { guessFieldType, toNameKey } from '../values/field.ts';

/** A leg as somebody said it in the workshop. */
export interface WorkshopLeg {
  /** The lane as it was typed; null: none. */
  readonly lane: string | null;
  readonly title: string;
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
}

const ARROW = /\s*(?:→|⇒|➜|-+>|=+>|\|>|\bgives?:?\s|\bgiving\s)\s*/iu;
/** What stands before the line and is none of it: numbers, bullets, boxes. */
const BULLET = /^\s*(?:[-–—*•·▪☐]\s*|\(?\d{1,3}[.)]\s+|leg\s+\d+\s*[:.–-]\s*)/iu;
const NEEDS_IN_BRACKETS = /\s*[([](?:needs?|takes?|with|from)?:?\s*([^()[\]]+)[)\]]\s*$/iu;
const NEEDS_IN_WORDS = /\s+(?:needs?|takes?)\s+(?:the\s+)?(.+)$/iu;
const LONGEST_LANE = 60;

/**
 * Reads legs as lines: “Field crews: fit the meter (survey no.) → meter serial, meter size”. Before the colon the lane, in brackets or behind
 * “needs” what it needs, behind the arrow what it gives. Rows of a spreadsheet (lane, words, needs, gives) are read as well. Empty lines are
 * left out; nothing that was typed is dropped. Cost O(length).
 */
export function readWorkshopText(text: string): WorkshopLeg[] {
  return text
    .split(/\r?\n/u)
    .map(readWorkshopLine)
    .filter((leg): leg is WorkshopLeg => leg !== null);
}

function readWorkshopLine(line: string): WorkshopLeg | null {
  if (line.includes('\t')) return readCells(line.split('\t'));
  const plain = line.replace(BULLET, '').trim();
  if (plain === '') return null;
  const [before = '', ...behind] = plain.split(ARROW);
  const { lane, words } = splitLane(before.trim());
  const bracketed = NEEDS_IN_BRACKETS.exec(words);
  const spoken = bracketed ? null : NEEDS_IN_WORDS.exec(words);
  const found = bracketed ?? spoken;
  const title = (found ? words.slice(0, found.index) : words).trim();
  return {
    lane,
    // A line of values alone keeps its words.
    title: title === '' ? plain : upperFirst(title),
    needs: readFields(found?.[1] ?? ''),
    gives: readFields(behind.join(', ')),
  };
}

function readCells(cells: readonly string[]): WorkshopLeg | null {
  const [lane = '', title = '', needs = '', gives = ''] = cells.map((cell) => cell.trim());
  if (title === '' && lane === '') return null;
  if (title === '') return readWorkshopLine(lane);
  return { lane: lane === '' ? null : lane, title: upperFirst(title), needs: readFields(needs), gives: readFields(gives) };
}

function splitLane(text: string): { lane: string | null; words: string } {
  const colon = text.search(/:(?!\d)/u);
  if (colon <= 0 || colon > LONGEST_LANE || text.slice(colon + 1).trim() === '') return { lane: null, words: text.replace(/:$/u, '') };
  return { lane: text.slice(0, colon).trim(), words: text.slice(colon + 1).trim() };
}

function readFields(text: string): Field[] {
  const seen = new Set<string>();
  return text
    .split(/\s*[,;&+]\s*|\s+and\s+/iu)
    .map((name) =>
      name
        .replace(/^(?:the|an?|its)\s+/iu, '')
        .replace(/[.:]$/u, (end) => (/\bno\.$/iu.test(name) ? end : ''))
        .trim(),
    )
    .filter((name) => name !== '' && !seen.has(toNameKey(name)) && seen.add(toNameKey(name)))
    .map((name) => ({ name: upperFirst(name), type: guessFieldType(name), required: true }));
}

const upperFirst = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The team that a lane's words name: the same name, else the only one that has all its words or whose words it has. */
export function findLane<Team extends { readonly name: string }>(lane: string, teams: readonly Team[]): Team | null {
  const exact = teams.find(({ name }) => toNameKey(name) === toNameKey(lane));
  if (exact) return exact;
  const words = toNameKey(lane).split(' ');
  const near = teams.filter(({ name }) => {
    const own = toNameKey(name).split(' ');
    return (
      words.every((word) => own.some((other) => isNear(word, other))) || own.every((other) => words.some((word) => isNear(word, other)))
    );
  });
  return near.length === 1 ? (near[0] ?? null) : null;
}

const isNear = (a: string, b: string) => a === b || (Math.min(a.length, b.length) >= 4 && (a.startsWith(b) || b.startsWith(a)));
