import { AppError } from '@kindred-baton/contracts/errors';
import type { RunId } from '@kindred-baton/core/ids';
import { printMoment } from '@kindred-baton/core/time/calendar';
import type { ReportedLeg as PrintedLeg, ReportedRun } from '@kindred-baton/formats/turns/run-report';
import { writeRunReport } from '@kindred-baton/formats/turns/run-report';
import type { ReportedAttempt, ReportedLeg, RunReport } from '@kindred-baton/store/turns/get-run-report';
import { getRunReport } from '@kindred-baton/store/turns/get-run-report';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Call } from '../../call.ts';
import { printPdf } from '../../documents/print-pdf.ts';
import { toHead } from '../../documents/to-head.ts';
import { describeScenario } from './describe-scenario.ts';
import type { Pictures } from './pictures.ts';
import { gatherPictures, linkPictures, loadPictures } from './pictures.ts';
import { toReportedAttempt, toValues } from './to-reported-attempt.ts';

/** A whole run as a document: as PDF, or as a page that a browser shows and prints (html). */
export async function answerRunReport({ ask, actor, url, params }: Call<{ readonly run: RunId }>): Promise<Response> {
  const format = url.searchParams.get('format') ?? 'pdf';
  if (format !== 'pdf' && format !== 'html') throw new AppError('invalid', `A run's report is not written as ${format}; pdf and html are.`);
  const report = await ask(getRunReport, params.run);
  const pictures = format === 'pdf' ? gatherPictures() : linkPictures(url.pathname.replace(/\/runs\/[^/]*\/report$/, ''));
  const title = describeScenario({ ...report.scenario, rowName: report.rowName });
  const html = writeRunReport(toReportedRun(report, { title, pictures, timeZone: actor.timeZone }), toHead({ actor, url }, title));
  if (format === 'pdf') {
    const name = `${report.cycle.code}-run-${report.number}.pdf`;
    return answerFile(await printPdf(html, loadPictures(ask, pictures)), { name, mediaType: MEDIA_TYPES.pdf });
  }
  return new Response(html, {
    headers: {
      ...{ 'content-type': MEDIA_TYPES.html, 'cache-control': 'no-store', 'x-content-type-options': 'nosniff' },
      'content-security-policy': "default-src 'none'; img-src 'self' data:; style-src 'unsafe-inline'; font-src data:",
    },
  });
}

interface Around {
  readonly title: string;
  readonly timeZone: string;
  readonly pictures: Pictures;
}

function toReportedRun(report: RunReport, { title, ...around }: Around): ReportedRun {
  const legs = report.legs.map((leg) => toPrintedLeg(leg, around));
  const leftOut = around.pictures.leftOut();
  const remarks = [
    ...report.legs.flatMap(tellStop),
    report.left === '' ? '' : `It left its cycle: ${report.left}.`,
    legs.some(({ earlier }) => earlier.length > 0)
      ? 'Of each leg the newest attempt is told in full; those before are a line each, and have reports of their own.'
      : '',
    leftOut === 0 ? '' : `${leftOut} pictures are named and not printed: they are too many for one document.`,
  ];
  const nameLeg = (index: number) => `${index + 1}. ${report.legs[index]?.turn.title ?? ''}`;
  return {
    ...{ title, outcome: report.outcome, legs, remarks: remarks.filter((remark) => remark !== '') },
    about: `${report.scenario.code} · ${report.cycle.name} · run ${report.number}`,
    values: [
      ...Object.entries(report.values).map(([name, value]) => ({ name, value, from: 'the data row' })),
      ...report.baton.map(({ name, value, index }) => ({ name, value, from: nameLeg(index) })),
    ],
  };
}

function toPrintedLeg(leg: ReportedLeg, around: Omit<Around, 'title'>): PrintedLeg {
  const { turn, persona, defects, attempts } = leg;
  const [newest, ...before] = attempts;
  return {
    ...{ leg: turn.leg, title: turn.title, test: turn.test ?? '', team: turn.team ?? '', status: turn.status, defects },
    by: newest?.person ?? turn.assignee ?? '',
    at: newest?.finishedAt ? printMoment(Date.parse(newest.finishedAt), around.timeZone) : '',
    about: [persona === null ? '' : `as ${persona}`, turn.heldBy ?? ''].filter((part) => part !== '').join(' · '),
    came: toValues(leg),
    attempt: newest ? toReportedAttempt(newest, { leg, ...around }) : null,
    earlier: before.map((attempt) => tellShortly(attempt, around.timeZone)),
  };
}

/** Where a run stands still, by the newest attempt at it. */
function tellStop({ turn, attempts, defects }: ReportedLeg): string[] {
  const [newest] = attempts;
  if (!newest || (turn.status !== 'failed' && turn.status !== 'blocked')) return [];
  const seenAs = defects.length === 0 ? '' : ` (${defects.map(({ code }) => code).join(', ')})`;
  return [`Leg ${turn.leg}, ${turn.title}: ${turn.status}${tellStep(newest)}${seenAs}.`];
}

/** At which step an attempt stopped, and what was said there. */
function tellStep({ results }: ReportedAttempt): string {
  const stopped = results.find(({ outcome }) => outcome === 'failed' || outcome === 'blocked');
  if (!stopped) return '';
  return ` at step ${stopped.stepIndex + 1}${stopped.note === '' ? '' : `, ${stopped.note.replace(/[.\s]+$/, '')}`}`;
}

function tellShortly(attempt: ReportedAttempt, timeZone: string): string {
  const { number, person, outcome, startedAt, finishedAt } = attempt;
  return `Attempt ${number}, ${person}, ${printMoment(Date.parse(finishedAt ?? startedAt), timeZone)}: ${outcome ?? 'under way'}${tellStep(attempt)}`;
}
