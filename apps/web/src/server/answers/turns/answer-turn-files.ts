import { AppError } from '@kindred-baton/contracts/errors';
import type { TurnId } from '@kindred-baton/core/ids';
import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { printDay, toDay } from '@kindred-baton/core/time/calendar';
import { fillStep } from '@kindred-baton/core/defects/describe-steps';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import { toSheetMark, toSheetText } from '@kindred-baton/core/turns/turn-sheet';
import type { DocumentHead } from '@kindred-baton/formats/documents/write-page';
import { writeAttemptReport } from '@kindred-baton/formats/turns/attempt-report';
import { printTurnSheet, writeTurnSheet } from '@kindred-baton/formats/turns/turn-sheet';
import { getEvidence } from '@kindred-baton/store/evidence/keep-evidence';
import { getGuide } from '@kindred-baton/store/turns/get-guide';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Call } from '../../call.ts';
import { printPdf } from '../../print-pdf.ts';
import { readFont } from '../../read-font.ts';

/** A turn to take away: a sheet to fill in (xlsx), the same to print (pdf), or the report of one attempt (report). */
export async function answerTurnFile({ ask, actor, url, params }: Call<{ readonly turn: TurnId }>): Promise<Response> {
  const format = url.searchParams.get('format') ?? 'xlsx';
  const guide = await ask(getGuide, params.turn);
  const paper = url.searchParams.get('paper') === 'Letter' ? ('Letter' as const) : ('A4' as const);
  const head = {
    title: guide.turn.title,
    programme: actor.programmeName,
    day: printDay(Date.now(), actor.timeZone),
    paper,
    font: readFont(),
  };
  const name = `${guide.turn.cycle.code}-${guide.turn.title}`.replace(/[^\p{L}\p{N}]+/gu, '-').slice(0, 80);
  if (format === 'report') return answerReport({ ask, timeZone: actor.timeZone }, guide, head, url.searchParams.get('attempt'));
  const sheet = toPrintedTurn(guide, actor.timeZone);
  if (format === 'xlsx') return answerFile(await writeTurnSheet(sheet), { name: `${name}.xlsx`, mediaType: MEDIA_TYPES.xlsx });
  if (format === 'pdf') return answerFile(await printPdf(printTurnSheet(sheet, head)), { name: `${name}.pdf`, mediaType: MEDIA_TYPES.pdf });
  throw new AppError('invalid', `A turn is not written as ${format}; xlsx, pdf and report are.`);
}

const describeTurn = ({ turn }: GuideView) =>
  `${turn.cycle.name} · ${turn.scenario.name}${turn.scenario.rowName === null ? '' : `, ${turn.scenario.rowName}`} · leg ${turn.leg} of ${turn.legs}`;

function toPrintedTurn(guide: GuideView, timeZone: string) {
  const { version, turn } = guide;
  if (!version) throw new AppError('invalid', 'This leg has no test yet; there is nothing to print.');
  const source = createSource(guide, { seed: turn.id, startedAt: new Date().toISOString(), kept: {} }, timeZone);
  return {
    ...{ mark: toSheetMark(turn.id, version.steps), title: turn.title, about: describeTurn(guide), tester: turn.assignee ?? 'nobody yet' },
    ...{ environment: guide.environment, note: guide.note },
    values: turn.arrivals.map(({ name, value }) => ({ name, value: value ?? 'not yet' })),
    steps: version.steps.map((step) => {
      const filled = fillStep(step, source);
      return { text: toSheetText(filled), expect: filled.expect ?? '', keeps: step.keepAs ?? '' };
    }),
  };
}

function createSource(
  guide: GuideView,
  attempt: { readonly seed: string; readonly startedAt: string; readonly kept: Readonly<Record<string, string>> },
  timeZone: string,
) {
  return createStepSource({
    ...{ attempt: attempt.seed, day: toDay(Date.parse(attempt.startedAt), timeZone) },
    calendar: { workingDays: guide.workingDays, holidays: guide.holidays },
    values: [...guide.turn.arrivals, ...Object.entries(attempt.kept).map(([name, value]) => ({ name, value }))],
  });
}

async function answerReport(
  { ask, timeZone }: { ask: Call['ask']; timeZone: string },
  guide: GuideView,
  head: DocumentHead,
  attemptId: string | null,
): Promise<Response> {
  const attempt = guide.attempts.find(({ id }) => id === attemptId) ?? guide.attempts[0];
  if (!attempt) throw new AppError('not found', 'No attempt was made at this turn yet.');
  const source = createSource(guide, attempt, timeZone);
  const pictures = await Promise.all(
    attempt.evidence.map(async (file) => ({
      ...file,
      address: file.mediaType.startsWith('image/') ? await toDataAddress(ask, file) : null,
    })),
  );
  const at = (moment: string | null) =>
    moment === null ? '' : new Intl.DateTimeFormat('en-GB', { timeZone, dateStyle: 'medium', timeStyle: 'short' }).format(new Date(moment));
  const html = writeAttemptReport(
    {
      ...{
        title: guide.turn.title,
        about: describeTurn(guide),
        number: attempt.number,
        person: attempt.person,
        outcome: attempt.outcome ?? 'under way',
      },
      ...{
        startedAt: at(attempt.startedAt),
        finishedAt: at(attempt.finishedAt),
        environment: attempt.environment,
        browser: attempt.browser,
      },
      ...{ persona: guide.persona ?? '', defects: guide.defects },
      came: guide.turn.arrivals.map(({ name, value }) => ({ name, value: value ?? '' })),
      kept: Object.entries(attempt.kept).map(([name, value]) => ({ name, value })),
      steps: (guide.version?.steps ?? []).map((step, index) => {
        const result = attempt.results.find(({ stepIndex }) => stepIndex === index);
        const filled = fillStep(step, source);
        return {
          ...{ text: toSheetText(filled), expect: filled.expect ?? '', outcome: result?.outcome ?? 'not told', note: result?.note ?? '' },
          ...{ by: result && result.by !== attempt.person ? result.by : '', looked: result ? describeLook(result) : '' },
          pictures: pictures.filter(({ stepIndex }) => stepIndex === index),
        };
      }),
    },
    head,
  );
  return answerFile(await printPdf(html), { name: `${guide.turn.cycle.code}-attempt-${attempt.number}.pdf`, mediaType: MEDIA_TYPES.pdf });
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

async function toDataAddress(ask: Call['ask'], file: AttemptView['evidence'][number]): Promise<string> {
  const { content, mediaType } = await ask(getEvidence, file.id);
  return `data:${mediaType};base64,${content.toString('base64')}`;
}
