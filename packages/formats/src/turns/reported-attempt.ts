import { heading, orderedList, paragraph, table } from '../documents/html.ts';
import type { Markup } from '../xml/markup.ts';
import { markup, NO_MARKUP } from '../xml/markup.ts';

export interface ReportedValue {
  readonly name: string;
  readonly value: string;
}

export interface ReportedAttempt {
  readonly number: number;
  readonly person: string;
  readonly outcome: string;
  readonly startedAt: string;
  readonly finishedAt: string;
  readonly environment: string;
  readonly browser: string;
  readonly kept: readonly ReportedValue[];
  readonly steps: readonly {
    readonly text: string;
    readonly expect: string;
    readonly outcome: string;
    readonly note: string;
    /** Whose word it is, where it is another's than the attempt's; empty: hers. */
    readonly by: string;
    /** What a runner looked for and saw, and what it did not look at. */
    readonly looked: string;
    /** Where the document finds them; anything but pictures is named only. */
    readonly pictures: readonly { readonly name: string; readonly address: string | null }[];
  }[];
}

export interface ReportedDefect {
  readonly code: string;
  readonly title: string;
  readonly status: string;
}

export const ATTEMPT_STYLE = `
figure { margin: 2mm 0; break-inside: avoid } figure img { max-width: 100%; max-height: 110mm; border: 0.3mm solid #b9b09d } figcaption { color: #566670; font-size: 9pt }
.step { break-inside: avoid; border-top: 0.3mm solid #e8e0d0; padding: 2mm 0 } .step p { margin: 0.5mm 0 } .failed { border-left: 1mm solid #c44a08; padding-left: 3mm } .blocked { border-left: 1mm dashed #a4487f; padding-left: 3mm }
`;

export const writeDefects = (defects: readonly ReportedDefect[]): Markup =>
  defects.length === 0
    ? NO_MARKUP
    : markup`${heading(3, 'Defects')}${orderedList(defects.map(({ code, title, status }) => `${code} ${title} (${status})`))}`;

export const writeValues = (title: string, values: readonly ReportedValue[]): Markup =>
  values.length === 0
    ? NO_MARKUP
    : markup`${heading(3, title)}${table(
        ['Value', ''],
        values.map(({ name, value }) => [name, value]),
      )}`;

/** Who tried it, when and where, every step as it was done with what was seen and its pictures, and what was kept. */
export const writeAttempt = (attempt: ReportedAttempt): Markup =>
  markup`${table(
    ['Attempt', 'By', 'Begun', 'Finished', 'Environment', 'Browser'],
    [[String(attempt.number), attempt.person, attempt.startedAt, attempt.finishedAt, attempt.environment, attempt.browser]],
  )}${heading(3, 'Steps')}${attempt.steps.map(toStep)}${writeValues('What was kept', attempt.kept)}`;

function toStep(step: ReportedAttempt['steps'][number], index: number): Markup {
  const pictures = step.pictures.map(
    ({ name, address }) =>
      markup`<figure>${address === null ? NO_MARKUP : markup`<img src="${address}" alt="${name}">`}<figcaption>${name}</figcaption></figure>`,
  );
  return markup`<div class="step ${step.outcome}"><p>${index + 1}. ${step.text} <b>${step.outcome}</b>${step.by === '' ? '' : `, by ${step.by}`}</p>${paragraph(step.expect === '' ? '' : `You should see: ${step.expect}`, 'about')}${paragraph(step.note === '' ? '' : `Seen: ${step.note}`)}${paragraph(step.looked, 'about')}${pictures}</div>`;
}
