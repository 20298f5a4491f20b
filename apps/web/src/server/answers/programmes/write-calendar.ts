import { addDays } from '@kindred-baton/core/time/calendar';
import type { loadFeed } from '@kindred-baton/store/programmes/profile';
import ical, { ICalCalendarMethod, ICalEventTransparency } from 'ical-generator';

type Feed = NonNullable<Awaited<ReturnType<typeof loadFeed>>>;

const STATE_LABELS = { waiting: 'still on its way to you', ready: 'with you', 'under way': 'under way', done: 'done' } as const;
const TTL_SECONDS = 3_600;

/** What is due of somebody, as an iCalendar (RFC 5545): a whole-day entry for each turn, on its due day, that takes no time from her day. */
export function writeCalendar({ programme, turns }: Feed, origin: string, now: Date): string {
  const calendar = ical({
    ...{
      name: `${programme.name}: my turns`,
      prodId: { company: 'Kindred Baton', product: 'turns' },
      method: ICalCalendarMethod.PUBLISH,
      ttl: TTL_SECONDS,
    },
  });
  for (const turn of turns) {
    if (turn.dueOn === null) continue;
    calendar.createEvent({
      ...{ id: `${turn.id}@kindred-baton`, allDay: true, stamp: now, start: toDate(turn.dueOn), end: toDate(addDays(turn.dueOn, 1)) },
      summary: turn.title,
      description: `${turn.cycle}: ${turn.scenario}${turn.rowName === null ? '' : `, ${turn.rowName}`}\n${STATE_LABELS[turn.state]}, about ${turn.minutes} minutes`,
      url: `${origin}/${programme.key}/turns/${turn.id}`,
      transparency: ICalEventTransparency.TRANSPARENT,
    });
  }
  return calendar.toString();
}

/** A day without a time zone: the package takes the parts that the machine's own zone shows. */
const toDate = (day: string) => new Date(Number(day.slice(0, 4)), Number(day.slice(5, 7)) - 1, Number(day.slice(8)));
