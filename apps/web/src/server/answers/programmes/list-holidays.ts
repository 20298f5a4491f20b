import { AppError } from '@kindred-baton/contracts/errors';
import type { Holidays, HolidaysQuery } from '@kindred-baton/contracts/programmes/programme';
import HolidayCalendar from 'date-holidays';

const MOST_YEARS = 5;

/** The public holidays of a country or region between two days, each day once (package date-holidays). */
export function listHolidays({ region, from, to }: HolidaysQuery): Holidays {
  const [country = '', state] = region.toUpperCase().split('-');
  const calendar = new HolidayCalendar();
  if (!Object.hasOwn(calendar.getCountries('en'), country))
    throw new AppError('invalid', `No holidays are known for the country ${country}.`);
  if (state !== undefined && !Object.hasOwn(calendar.getStates(country, 'en') ?? {}, state))
    throw new AppError(
      'invalid',
      `No region ${state} is known in ${country}. Known are ${Object.keys(calendar.getStates(country, 'en') ?? {}).join(', ') || 'none'}.`,
    );
  calendar.init(country, state ?? '');
  const [first, last] = [Number(from.slice(0, 4)), Number(to.slice(0, 4))];
  if (last - first >= MOST_YEARS) throw new AppError('invalid', `Holidays are listed for ${MOST_YEARS} years at most.`);
  const found = new Map<string, string>();
  for (let year = first; year <= last; year += 1) {
    for (const { date, name, type } of calendar.getHolidays(year, 'en')) {
      const day = date.slice(0, 10);
      if (type === 'public' && day >= from && day <= to && !found.has(day)) found.set(day, name);
    }
  }
  return { holidays: [...found].sort(([a], [b]) => (a < b ? -1 : 1)).map(([day, name]) => ({ day, name })) };
}
