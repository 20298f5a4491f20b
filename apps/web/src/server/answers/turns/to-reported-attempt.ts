import type { AttemptView } from '@kindred-baton/contracts/turns/turn';
import { fillStep } from '@kindred-baton/core/defects/describe-steps';
import { printMoment, toDay } from '@kindred-baton/core/time/calendar';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import { toSheetText } from '@kindred-baton/core/turns/turn-sheet';
import type { ReportedAttempt } from '@kindred-baton/formats/turns/reported-attempt';
import type { ReportedAttempt as StoredAttempt, ReportedLeg } from '@kindred-baton/store/turns/get-run-report';
import type { Pictures } from './pictures.ts';

export const toValues = (leg: Pick<ReportedLeg, 'turn'>) =>
  leg.turn.arrivals.map(({ name, value }) => ({ name, value: value ?? 'not yet' }));

interface Around {
  readonly leg: ReportedLeg;
  readonly timeZone: string;
  readonly pictures: Pictures;
}

/** An attempt as it is printed: each step with the values that were used. */
export function toReportedAttempt(attempt: StoredAttempt, { leg, timeZone, pictures }: Around): ReportedAttempt {
  const source = createStepSource({
    ...{ attempt: attempt.seed, day: toDay(Date.parse(attempt.startedAt), timeZone), calendar: leg.calendar },
    values: [...leg.turn.arrivals, ...Object.entries(attempt.kept).map(([name, value]) => ({ name, value }))],
  });
  const at = (moment: string | null) => (moment === null ? '' : printMoment(Date.parse(moment), timeZone));
  return {
    ...{ number: attempt.number, person: attempt.person, outcome: attempt.outcome ?? 'under way' },
    ...{ startedAt: at(attempt.startedAt), finishedAt: at(attempt.finishedAt), environment: attempt.environment, browser: attempt.browser },
    kept: Object.entries(attempt.kept).map(([name, value]) => ({ name, value })),
    steps: attempt.steps.map((step, index) => {
      const result = attempt.results.find(({ stepIndex }) => stepIndex === index);
      const filled = fillStep(step, source);
      return {
        ...{ text: toSheetText(filled), expect: filled.expect ?? '', outcome: result?.outcome ?? 'not told', note: result?.note ?? '' },
        ...{ by: result && result.by !== attempt.person ? result.by : '', looked: result ? describeLook(result) : '' },
        pictures: attempt.evidence
          .filter(({ stepIndex }) => stepIndex === index)
          .map((file) => ({ name: file.name, address: pictures.addressOf(file) })),
      };
    }),
  };
}

/** What a runner looked for, what it saw, and what is left to a person's eye. */
function describeLook({ expected, actual, unlooked }: AttemptView['results'][number]): string {
  const parts = [
    expected === '' ? '' : `Looked for: ${expected}.`,
    actual === '' ? '' : `There: ${actual}.`,
    unlooked === '' ? '' : `Not looked at: ${unlooked}.`,
  ];
  return parts.filter((part) => part !== '').join(' ');
}
