import { NONE } from '@kindred-baton/core/progress/facet';
import type { FacetName } from '@kindred-baton/core/progress/facet';
import type { SQL } from 'drizzle-orm';
import { sql } from 'drizzle-orm';
import type { ReadContext } from '../../operation.ts';
import { turns } from '../../schema/turns.ts';
import type { FacetValue, TurnFacet } from './facet.ts';
import { toNone, toValue } from './facet.ts';

const DAY_NAME = new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' });

function readDay(day: string): FacetValue {
  const at = Date.parse(`${day}T12:00:00Z`);
  return { ...toValue(day, at), name: DAY_NAME.format(at).replace(',', '') };
}

/** By a day, as YYYY-MM-DD. */
const byDays = (facet: FacetName, { day, none }: { day: (context: ReadContext) => SQL; none: string }): TurnFacet => ({
  load: async (context) => ({ facet, value: sql`${day(context)}::text`, read: (value) => (value === '' ? toNone(none) : readDay(value)) }),
  filter: (context, value) => (value === NONE ? sql`${day(context)} is null` : sql`${day(context)}::text = ${value}`),
});

export const dueFacet = byDays('due', { day: () => sql`${turns.dueOn}`, none: 'No due day' });

/** The day of the programme on which its newest attempt ended. */
export const endedFacet = byDays('ended', {
  day: ({ actor }) => sql`(${turns.doneAt} at time zone ${actor.timeZone}::text)::date`,
  none: 'Not ended yet',
});
