interface NamedDefect {
  readonly code: string;
  readonly title: string;
}

/** What changed since a moment: turns that ended so, turns that came to hand, defects. */
export interface Changed {
  readonly passed: number;
  readonly failed: number;
  readonly blocked: number;
  readonly ready: number;
  readonly found: readonly NamedDefect[];
  readonly fixed: readonly NamedDefect[];
}

interface Told {
  /** Of what: a cycle, a branch of it. */
  readonly of: string;
  /** The moment, as it is read. */
  readonly since: string;
  /** How it will end, or another last sentence; left out: none. */
  readonly end?: string;
}

/** More defects than so many are counted. */
const DEFECTS_TOLD = 12;

/** One paragraph that can go into a mail. */
export function describeSince({ passed, failed, blocked, ready, found, fixed }: Changed, { of, since, end }: Told): string {
  const trouble = failed + blocked;
  return [
    `${of}, since ${since}:`,
    `${passed} ${passed === 1 ? 'turn' : 'turns'} passed, ${trouble} failed or ${trouble === 1 ? 'was' : 'were'} blocked, ${ready} came to hand.`,
    describeDefects('New', found),
    describeDefects('Fixed', fixed),
    ...(end === undefined ? [] : [end]),
  ].join(' ');
}

function describeDefects(what: string, defects: readonly NamedDefect[]): string {
  if (defects.length === 0) return `${what}: no defect.`;
  const told = defects.slice(0, DEFECTS_TOLD).map(({ code, title }) => `${code} (${title})`);
  const more = defects.length - told.length;
  const [last = '', ...rest] = [...told, ...(more > 0 ? [`${more} more`] : [])].reverse();
  return `${what}: ${rest.length === 0 ? last : `${rest.reverse().join(', ')} and ${last}`}.`;
}

/** Whether there is anything to tell. */
export const hasChanged = ({ passed, failed, blocked, ready, found, fixed }: Changed): boolean =>
  passed + failed + blocked + ready + found.length + fixed.length > 0;
