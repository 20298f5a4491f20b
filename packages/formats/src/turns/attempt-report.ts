import { heading, paragraph } from '../documents/html.ts';
import type { DocumentHead } from '../documents/write-page.ts';
import { writePage } from '../documents/write-page.ts';
import { toLines } from '../xml/markup.ts';
import type { ReportedAttempt, ReportedDefect, ReportedValue } from './reported-attempt.ts';
import { ATTEMPT_STYLE, writeAttempt, writeDefects, writeValues } from './reported-attempt.ts';

export interface AttemptReport {
  readonly title: string;
  readonly about: string;
  readonly attempt: ReportedAttempt;
  readonly came: readonly ReportedValue[];
  readonly defects: readonly ReportedDefect[];
}

/** The report of one attempt, to send to the team that must fix what was found: every step as it was done, what was seen, the pictures. */
export function writeAttemptReport({ title, about, attempt, came, defects }: AttemptReport, head: DocumentHead): string {
  const body = [
    paragraph(`${head.programme} · ${head.day}`, 'programme'),
    heading(1, `${title}: ${attempt.outcome}`),
    paragraph(about, 'about'),
    writeDefects(defects),
    writeValues('What came in', came),
    writeAttempt(attempt),
  ];
  return writePage(head, toLines(body), { style: `h1 { font-size: 18pt; margin-bottom: 1mm } ${ATTEMPT_STYLE}` });
}
