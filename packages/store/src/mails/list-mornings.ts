import { isWorkingDay, toDay } from '@kindred-baton/core/time/calendar';
import type { Store } from '../database.ts';
import { programmes } from '../schema/programmes.ts';

const MORNING_HOUR = 7;
const WEEKDAYS = { workingDays: [1, 2, 3, 4, 5], holidays: [] };

export type ProgrammeRow = typeof programmes.$inferSelect;

/** The programmes where it is a working day, and seven in the morning or later, each with its day. */
export async function listMornings(store: Store): Promise<{ readonly programme: ProgrammeRow; readonly today: string }[]> {
  const now = store.now();
  return (await store.db.select().from(programmes)).flatMap((programme) => {
    const today = toDay(now.getTime(), programme.timeZone);
    const hour = Number(new Intl.DateTimeFormat('en-GB', { timeZone: programme.timeZone, hour: '2-digit', hourCycle: 'h23' }).format(now));
    return hour >= MORNING_HOUR && isWorkingDay(today, WEEKDAYS) ? [{ programme, today }] : [];
  });
}
