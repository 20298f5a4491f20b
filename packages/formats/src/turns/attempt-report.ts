import { heading, orderedList, paragraph, table } from '../documents/html.ts';
import type { DocumentHead } from '../documents/write-page.ts';
import { writePage } from '../documents/write-page.ts';
import type { Markup } from '../xml/markup.ts';
import { markup, NO_MARKUP, toLines } from '../xml/markup.ts';

export interface ReportedAttempt {
  readonly title: string;
  readonly about: string;
  readonly number: number;
  readonly person: string;
  readonly outcome: string;
  readonly startedAt: string;
  readonly finishedAt: string;
  readonly environment: string;
  readonly browser: string;
  readonly persona: string;
  readonly came: readonly { readonly name: string; readonly value: string }[];
  readonly kept: readonly { readonly name: string; readonly value: string }[];
  readonly steps: readonly {
    readonly text: string;
    readonly expect: string;
    readonly outcome: string;
    readonly note: string;
    /** Whose word it is, where it is another's than the attempt's; empty: hers. */
    readonly by: string;
    /** What a runner looked for and saw, and what it did not look at. */
    readonly looked: string;
    /** Data addresses; anything but pictures is named only. */
    readonly pictures: readonly { readonly name: string; readonly address: string | null }[];
  }[];
  readonly defects: readonly { readonly code: string; readonly title: string; readonly status: string }[];
}

const STYLE = `
h1 { font-size: 18pt; margin-bottom: 1mm } figure { margin: 2mm 0; break-inside: avoid } figure img { max-width: 100%; max-height: 110mm; border: 0.3mm solid #b9b09d } figcaption { color: #566670; font-size: 9pt }
.step { break-inside: avoid; border-top: 0.3mm solid #e8e0d0; padding: 2mm 0 } .step p { margin: 0.5mm 0 } .failed { border-left: 1mm solid #c44a08; padding-left: 3mm } .blocked { border-left: 1mm dashed #a4487f; padding-left: 3mm }
`;

/** The report of one attempt, to send to the team that must fix what was found: every step as it was done, what was seen, the pictures. */
export function writeAttemptReport(attempt: ReportedAttempt, head: DocumentHead): string {
  const values = (title: string, list: ReportedAttempt['came']) =>
    list.length === 0
      ? NO_MARKUP
      : markup`${heading(3, title)}${table(
          ['Value', ''],
          list.map(({ name, value }) => [name, value]),
        )}`;
  const body = [
    paragraph(`${head.programme} · ${head.day}`, 'programme'),
    heading(1, `${attempt.title}: ${attempt.outcome}`),
    paragraph(attempt.about, 'about'),
    table(
      ['Attempt', 'By', 'Begun', 'Finished', 'Environment', 'Browser', 'As'],
      [
        [
          String(attempt.number),
          attempt.person,
          attempt.startedAt,
          attempt.finishedAt,
          attempt.environment,
          attempt.browser,
          attempt.persona,
        ],
      ],
    ),
    attempt.defects.length === 0
      ? NO_MARKUP
      : markup`${heading(3, 'Defects')}${orderedList(attempt.defects.map(({ code, title, status }) => `${code} ${title} (${status})`))}`,
    values('What came in', attempt.came),
    heading(3, 'Steps'),
    ...attempt.steps.map(toStep),
    values('What was kept', attempt.kept),
  ];
  return writePage(head, toLines(body), { style: STYLE });
}

function toStep(step: ReportedAttempt['steps'][number], index: number): Markup {
  const pictures = step.pictures.map(
    ({ name, address }) =>
      markup`<figure>${address ? markup`<img src="${address}" alt="${name}">` : NO_MARKUP}<figcaption>${name}</figcaption></figure>`,
  );
  return markup`<div class="step ${step.outcome}"><p>${index + 1}. ${step.text} <b>${step.outcome}</b>${step.by === '' ? '' : `, by ${step.by}`}</p>${paragraph(step.expect === '' ? '' : `You should see: ${step.expect}`, 'about')}${paragraph(step.note === '' ? '' : `Seen: ${step.note}`)}${paragraph(step.looked, 'about')}${pictures}</div>`;
}
