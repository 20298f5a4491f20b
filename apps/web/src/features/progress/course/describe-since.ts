import type { Since } from '@kindred-baton/contracts/progress/since';
import { countOf, formatWhole, listNames } from '../../../ui/format.ts';

/** One paragraph that can go into a mail. */
export function describeSince(
  since: Since,
  { timeZone, cycle, end }: { readonly timeZone: string; readonly cycle: string; readonly end: string },
): string {
  const { passed, failed, blocked, ready, found, fixed } = since;
  const trouble = failed + blocked;
  return [
    `${cycle}, since ${formatWhole(since.since, timeZone)}:`,
    `${countOf(passed, 'turn')} passed, ${trouble} failed or ${trouble === 1 ? 'was' : 'were'} blocked, ${ready} came to hand.`,
    describeDefects('New', found),
    describeDefects('Fixed', fixed),
    end,
  ].join(' ');
}

const describeDefects = (what: string, defects: Since['found']) =>
  `${what}: ${defects.length === 0 ? 'no defect' : listNames(defects.map(({ code, title }) => `${code} (${title})`))}.`;
