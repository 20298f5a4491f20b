import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { readExpectation } from '@kindred-baton/core/screens/read-expectation';
import { looksAtAnswer } from '@kindred-baton/core/tests/find-way-in';
import type { Step } from '@kindred-baton/core/tests/step';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { TemplateSource } from '@kindred-baton/core/values/template';
import { fillTemplate, findTemplateNames } from '@kindred-baton/core/values/template';
import { toValues } from './write-script.ts';

type Recorded = Readonly<Record<string, unknown>>;

/** The day on which it is written, and fresh values: a recording has no places to be filled in later. */
export type RecordingSource = Pick<TemplateSource, 'day' | 'fresh'>;

/**
 * A test in the JSON that browsers' own recorders write and replay: where to go, what to press and fill by accessible name, by text and by the cell
 * before it, what should be readable; what is asked of a door is not in it. Values are those of the first data row, else examples; signing in is not in it.
 */
export function writeRecording(test: ExportedTest, given: RecordingSource): string {
  const values = new Map(Object.entries(toValues(test)).map(([name, value]) => [toNameKey(name), value]));
  const source: TemplateSource = { ...given, valueOf: (name) => values.get(toNameKey(name)) };
  const start: Recorded[] = [
    { type: 'setViewport', width: 1280, height: 800, deviceScaleFactor: 1, isMobile: false, hasTouch: false, isLandscape: true },
    ...(test.address === null ? [] : [{ type: 'navigate', url: test.address }]),
  ];
  const steps = [...start, ...test.steps.flatMap((step, index) => (looksAtAnswer(test.steps, index) ? [] : toRecorded(step, source)))];
  return `${JSON.stringify({ title: `${test.code} ${test.name}`, steps }, null, 2)}\n`;
}

function toRecorded(step: Step, source: TemplateSource): Recorded[] {
  const target = fillTemplate(step.target, source);
  const value = fillTemplate(step.value ?? '', source);
  const seen =
    step.expect === undefined || step.do === 'ask'
      ? []
      : readExpectation(step.expect, source).words.filter((word) => !/^\{.*\}$/.test(word));
  return [...toAct(step, target, value, source), ...seen.map(toReadable)];
}

function toAct(step: Step, target: string, value: string, source: TemplateSource): Recorded[] {
  switch (step.do) {
    case 'go':
    case 'press':
      return [{ type: 'click', target: 'main', selectors: [[`aria/${target}`], [`text/${target}`]], offsetX: 4, offsetY: 4 }];
    case 'fill':
    case 'pick':
      return [{ type: 'change', target: 'main', selectors: [[`aria/${target}`], [`xpath/${toFieldPath(target)}`]], value }];
    case 'see':
    case 'wait':
      // What was kept on the way is not known here; that the thing is there is looked at all the same.
      return [toReadable(target), ...(value === '' || step.check !== undefined || isOpen(step, source) ? [] : [toReadable(value)])];
    case 'keep':
      return [
        { type: 'waitForElement', target: 'main', selectors: [[`aria/${target}`], [`text/${target}`], [`xpath/${toFieldPath(target)}`]] },
      ];
    default:
      return [];
  }
}

const isOpen = ({ value = '' }: Step, { valueOf }: TemplateSource) => findTemplateNames(value).some((name) => valueOf(name) === undefined);

/** A field whose label is the cell before it. */
function toFieldPath(label: string): string {
  const words = label.includes('"') ? `'${label.replace(/'/g, '’')}'` : `"${label}"`;
  return `//td[normalize-space(.)=${words}]/following-sibling::td[1]//*[self::input or self::select or self::textarea]`;
}

/** That words can be read somewhere on the page, shadow roots and fields included. */
function toReadable(words: string): Recorded {
  const walk =
    '(function walk(root){return [...root.querySelectorAll("*")].map((e)=>(e.shadowRoot?walk(e.shadowRoot):"")+" "+(e.children.length?"":e.innerText||e.value||"")).join(" ")})(document)';
  return { type: 'waitForExpression', expression: `(document.body.innerText+" "+${walk}).includes(${JSON.stringify(words)})` };
}
