import { AppError } from '@kindred-baton/contracts/errors';
import type { TurnId } from '@kindred-baton/core/ids';
import type { GuideView, TurnCard } from '@kindred-baton/contracts/turns/turn';
import { toDay } from '@kindred-baton/core/time/calendar';
import { fillStep } from '@kindred-baton/core/defects/describe-steps';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import { toSheetMark, toSheetText } from '@kindred-baton/core/turns/turn-sheet';
import type { DocumentHead } from '@kindred-baton/formats/documents/write-page';
import { writeAttemptReport } from '@kindred-baton/formats/turns/attempt-report';
import { printTurnSheet, writeTurnSheet } from '@kindred-baton/formats/turns/turn-sheet';
import { getGuide } from '@kindred-baton/store/turns/get-guide';
import type { ReportedLeg } from '@kindred-baton/store/turns/get-run-report';
import { getReportedLeg } from '@kindred-baton/store/turns/get-run-report';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Call } from '../../call.ts';
import { printPdf } from '../../documents/print-pdf.ts';
import { toHead } from '../../documents/to-head.ts';
import { describeScenario } from './describe-scenario.ts';
import { gatherPictures, loadPictures } from './pictures.ts';
import { toReportedAttempt, toValues } from './to-reported-attempt.ts';

/** A turn to take away: a sheet to fill in (xlsx), the same to print (pdf), or the report of one attempt (report). */
export async function answerTurnFile({ ask, actor, url, params }: Call<{ readonly turn: TurnId }>): Promise<Response> {
  const format = url.searchParams.get('format') ?? 'xlsx';
  if (format === 'report') {
    const leg = await ask(getReportedLeg, params.turn);
    const head = toHead({ actor, url }, leg.turn.title);
    return answerReport({ ask, timeZone: actor.timeZone }, leg, head, url.searchParams.get('attempt'));
  }
  const guide = await ask(getGuide, params.turn);
  const head = toHead({ actor, url }, guide.turn.title);
  const name = `${guide.turn.cycle.code}-${guide.turn.title}`.replace(/[^\p{L}\p{N}]+/gu, '-').slice(0, 80);
  const sheet = toPrintedTurn(guide, actor.timeZone);
  if (format === 'xlsx') return answerFile(await writeTurnSheet(sheet), { name: `${name}.xlsx`, mediaType: MEDIA_TYPES.xlsx });
  if (format === 'pdf') return answerFile(await printPdf(printTurnSheet(sheet, head)), { name: `${name}.pdf`, mediaType: MEDIA_TYPES.pdf });
  throw new AppError('invalid', `A turn is not written as ${format}; xlsx, pdf and report are.`);
}

const describeTurn = (turn: TurnCard, persona: string | null) =>
  `${turn.cycle.name} · ${describeScenario(turn.scenario)} · leg ${turn.leg} of ${turn.legs}${persona === null ? '' : ` · as ${persona}`}`;

function toPrintedTurn(guide: GuideView, timeZone: string) {
  const { version, turn } = guide;
  if (!version) throw new AppError('invalid', 'This leg has no test yet; there is nothing to print.');
  const source = createStepSource({
    ...{ attempt: turn.id, day: toDay(Date.now(), timeZone), values: turn.arrivals },
    calendar: { workingDays: guide.workingDays, holidays: guide.holidays },
  });
  return {
    ...{
      mark: toSheetMark(turn.id, version.steps),
      title: turn.title,
      about: describeTurn(turn, guide.persona),
      tester: turn.assignee ?? 'nobody yet',
    },
    ...{ environment: guide.environment, note: guide.note },
    values: turn.arrivals.map(({ name, value }) => ({ name, value: value ?? 'not yet' })),
    steps: version.steps.map((step) => {
      const filled = fillStep(step, source);
      return { text: toSheetText(filled), expect: filled.expect ?? '', keeps: step.keepAs ?? '' };
    }),
  };
}

async function answerReport(
  { ask, timeZone }: Pick<Call, 'ask'> & { readonly timeZone: string },
  leg: ReportedLeg,
  head: DocumentHead,
  attemptId: string | null,
): Promise<Response> {
  const attempt = leg.attempts.find(({ id }) => id === attemptId) ?? leg.attempts[0];
  if (!attempt) throw new AppError('not found', 'No attempt was made at this turn yet.');
  const pictures = gatherPictures();
  const html = writeAttemptReport(
    {
      ...{ title: leg.turn.title, about: describeTurn(leg.turn, leg.persona), defects: leg.defects, came: toValues(leg) },
      attempt: toReportedAttempt(attempt, { leg, timeZone, pictures }),
    },
    head,
  );
  const name = `${leg.turn.cycle.code}-attempt-${attempt.number}.pdf`;
  return answerFile(await printPdf(html, loadPictures(ask, pictures)), { name, mediaType: MEDIA_TYPES.pdf });
}
