import { heading, list, paragraph, table } from '../documents/html.ts';
import type { DocumentHead } from '../documents/write-page.ts';
import { writePage } from '../documents/write-page.ts';
import type { Markup } from '../xml/markup.ts';
import { markup, NO_MARKUP, toLines } from '../xml/markup.ts';
import type { ReportedAttempt, ReportedDefect, ReportedValue } from './reported-attempt.ts';
import { ATTEMPT_STYLE, writeAttempt, writeDefects, writeValues } from './reported-attempt.ts';

export interface ReportedLeg {
  readonly leg: number;
  readonly title: string;
  readonly test: string;
  readonly team: string;
  /** Whose it is, or whose attempt counts. */
  readonly by: string;
  readonly status: string;
  /** When the attempt that counts ended. */
  readonly at: string;
  /** As whom it is done, and what else is to be known of it. */
  readonly about: string;
  readonly came: readonly ReportedValue[];
  readonly defects: readonly ReportedDefect[];
  /** The newest; null: nobody has tried it. */
  readonly attempt: ReportedAttempt | null;
  /** A line for each attempt before it. */
  readonly earlier: readonly string[];
}

export interface ReportedRun {
  readonly title: string;
  readonly outcome: string;
  readonly about: string;
  /** What its reader is to know before she reads on: how it left its cycle, what is not printed. */
  readonly remarks: readonly string[];
  /** What came with its data row, and what its legs handed on. */
  readonly values: readonly { readonly name: string; readonly value: string; readonly from: string }[];
  readonly legs: readonly ReportedLeg[];
}

const STYLE = `${ATTEMPT_STYLE}
h1 { font-size: 20pt; margin-bottom: 1mm } h2 { margin-top: 9mm; break-after: avoid } h3 { break-after: avoid }
`;

/** A whole run as it went: its outcome, every value with where it came from, every leg with who did it, its steps, what was seen, and the pictures. */
export function writeRunReport({ title, outcome, about, remarks, values, legs }: ReportedRun, head: DocumentHead): string {
  const body = [
    paragraph(`${head.programme} · ${head.day}`, 'programme'),
    heading(1, `${title}: ${outcome}`),
    paragraph(about, 'about'),
    list(remarks),
    table(
      ['Leg', '', 'Team', 'By', 'Outcome', 'When', 'Attempts'],
      legs.map(({ leg, title: name, team, by, status, at, attempt, earlier }) => [
        ...[leg, name, team, by, status, at],
        attempt === null ? 0 : earlier.length + 1,
      ]),
    ),
    heading(2, 'The baton'),
    values.length === 0
      ? paragraph('Nothing was handed on yet.')
      : table(
          ['Value', '', 'From'],
          values.map(({ name, value, from }) => [name, value, from]),
        ),
    ...legs.map(writeLeg),
  ];
  return writePage(head, toLines(body), { style: STYLE });
}

const writeLeg = ({ leg, title, test, status, about, came, defects, attempt, earlier }: ReportedLeg): Markup =>
  markup`${heading(2, `${leg}. ${title}: ${status}`)}${paragraph(test === '' ? about : `${test}${about === '' ? '' : ` · ${about}`}`, 'about')}${writeDefects(defects)}${writeValues('What came in', came)}${attempt === null ? paragraph('Nobody has tried it.') : writeAttempt(attempt)}${earlier.length === 0 ? NO_MARKUP : markup`${heading(3, 'Attempts before')}${list(earlier)}`}`;
