import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { toDay } from '@kindred-baton/core/time/calendar';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import type { TemplateSource } from '@kindred-baton/core/values/template';

interface AttemptSourceParts {
  readonly guide: GuideView;
  readonly attempt: Pick<AttemptView, 'seed' | 'startedAt'>;
  /** What was kept in it so far. */
  readonly kept: readonly { readonly name: string; readonly value: string }[];
  readonly timeZone: string;
}

/** With which values the steps of an attempt are said: what came in, then what was kept. */
export const createAttemptSource = ({ guide, attempt, kept, timeZone }: AttemptSourceParts): TemplateSource =>
  createStepSource({
    attempt: attempt.seed,
    day: toDay(Date.parse(attempt.startedAt), timeZone),
    calendar: { workingDays: guide.workingDays, holidays: guide.holidays },
    values: [...guide.turn.arrivals, ...kept],
  });
