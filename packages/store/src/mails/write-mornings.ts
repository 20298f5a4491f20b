import { isWorkingDay, toDay } from '@kindred-baton/core/time/calendar';
import type { Store } from '../database.ts';
import { programmes } from '../schema/programmes.ts';

const MORNING_HOUR = 7;
const WEEKDAYS = { workingDays: [1, 2, 3, 4, 5], holidays: [] };

export type ProgrammeRow = typeof programmes.$inferSelect;

/**
 * Writes the letters of a morning in each programme where it is a working day, and seven or later; what goes wrong in one does not keep the others from theirs.
 * Answers how many were written; rejects with what went wrong.
 */
export async function writeMornings(store: Store, write: (programme: ProgrammeRow, today: string) => Promise<number>): Promise<number> {
  const now = store.now();
  const failures: unknown[] = [];
  let written = 0;
  for (const programme of await store.db.select().from(programmes)) {
    const today = toDay(now.getTime(), programme.timeZone);
    const hour = Number(new Intl.DateTimeFormat('en-GB', { timeZone: programme.timeZone, hour: '2-digit', hourCycle: 'h23' }).format(now));
    if (hour < MORNING_HOUR || !isWorkingDay(today, WEEKDAYS)) continue;
    try {
      written += await write(programme, today);
    } catch (error) {
      failures.push(error);
    }
  }
  if (failures.length > 0) throw new AggregateError(failures, 'The letters of some programmes could not be written.');
  return written;
}
