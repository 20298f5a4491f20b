import type { WorkingCalendar } from '../time/calendar.ts';
import { addDays, addWorkingDays } from '../time/calendar.ts';
import { createFreshValue, createRandom, toSeed } from '../values/fresh.ts';
import { toNameKey } from '../values/field.ts';
import type { TemplateSource } from '../values/template.ts';

export interface StepSourceInput {
  /** The attempt's id: it fixes the fresh values, so that they stay the same while it is made. */
  readonly attempt: string;
  /** The day on which the attempt began, YYYY-MM-DD. */
  readonly day: string;
  readonly calendar: WorkingCalendar;
  /** Values that came in, then values kept so far; a later one wins. */
  readonly values: readonly { readonly name: string; readonly value: string | null | undefined }[];
}

/** Where the places in a step's templates get their values while an attempt is made. */
export function createStepSource({ attempt, day, calendar, values }: StepSourceInput): TemplateSource {
  const known = new Map<string, string>();
  for (const { name, value } of values) if (value) known.set(toNameKey(name), value);
  return {
    valueOf: (name) => known.get(toNameKey(name)),
    day: (offset, working) => (working ? addWorkingDays(day, offset, calendar) : addDays(day, offset)),
    fresh: (pattern) => createFreshValue(pattern, createRandom(toSeed(`${attempt} ${pattern}`))),
  };
}
