import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { listInputs } from '@kindred-baton/core/imports/exported-test';
import { readExpectation } from '@kindred-baton/core/screens/read-expectation';
import { looksAtAnswer } from '@kindred-baton/core/tests/find-way-in';
import { printStep } from '@kindred-baton/core/tests/print-step';
import type { Step } from '@kindred-baton/core/tests/step';
import { createExample } from '@kindred-baton/core/values/create-example';
import { parseTemplate } from '@kindred-baton/core/values/template';
import { SCRIPT_FUNCTIONS } from './script-functions.ts';

/**
 * A test as a small program for puppeteer-core that runs by itself: its values on top, a line a step, and the few functions that find by words.
 * Values are those of the first data row, else examples. It has no password in it: whoever runs it gives the sign-in.
 */
export function writeScript(test: ExportedTest): string {
  const { code, name, version, steps, address } = test;
  return `// ${oneLine(`${code} ${name}, version ${version}`)}
// Needs Node.js and: npm install puppeteer-core
// SIGN_IN_USER=… SIGN_IN_PASSWORD=… node ${code}.mjs [address]
import puppeteer from 'puppeteer-core';

const address = process.argv[2] ?? ${JSON.stringify(address ?? '')};
const values = ${JSON.stringify(toValues(test), null, 2)};

const browser = await puppeteer.launch({ executablePath: process.env.CHROME ?? '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await browser.newPage();
try {
  await page.goto(address, { waitUntil: 'load' });
  await signIn();
${steps.flatMap((step, index) => toLines(step, steps, index)).join('\n')}
  console.log('passed', values);
} catch (error) {
  console.error('failed:', error.message);
  process.exitCode = 1;
} finally {
  await browser.close();
}
${SCRIPT_FUNCTIONS}`;
}

const oneLine = (text: string) => text.replace(/\s+/g, ' ');

/** What stands on top: the first data row, and an example for what it does not say. */
export function toValues(test: ExportedTest): Record<string, string> {
  const [row] = test.rows;
  return Object.fromEntries(
    listInputs(test).map((input) => {
      const need = test.needs.find((field) => field.name === input);
      return [input, row?.values[input] ?? (need ? createExample(need) : '')];
    }),
  );
}

function toLines(step: Step, steps: readonly Step[], index: number): string[] {
  const { expect, ...act } = step;
  const isOfDoor = step.do === 'ask' || looksAtAnswer(steps, index);
  const lines = [`  // ${oneLine(printStep(act))}`, `  ${isOfDoor ? leaveOut(step) : toAct(step)}`];
  if (expect === undefined || isOfDoor) return lines;
  const { words, left } = readExpectation(expect, AS_PLACES);
  return [
    ...lines,
    ...words.map((word) => `  await seeWords(${toExpression(word)});`),
    ...(left === '' ? [] : [`  // For a person to judge: ${oneLine(left)}`]),
  ];
}

/** Places stay as they are: they are filled in when the script runs. */
const AS_PLACES = {
  valueOf: (name: string) => `{${name}}`,
  day: (offset: number, working: boolean) => `{today ${offset < 0 ? '-' : '+'} ${Math.abs(offset)} ${working ? 'working ' : ''}days}`,
  fresh: (pattern: string) => `{new ${pattern}}`,
};

/** What is asked of a door, which a script has not: said as it runs, and where a value would be missing it stops. */
function leaveOut(step: Step): string {
  const words = JSON.stringify(oneLine(printStep(step)));
  return step.keepAs === undefined
    ? `console.log('not done, a door is asked here:', ${words});`
    : `throw new Error('Kept from a door, which this script has not: ' + ${words});`;
}

function toAct(step: Step): string {
  const target = toExpression(step.target);
  const value = toExpression(step.value ?? '');
  const where = toWhere(step);
  switch (step.do) {
    case 'go':
      // The application is open already; what is left is the way in it.
      return `await go(${target});`;
    case 'press':
      return `await press(${target}${where});`;
    case 'fill':
      return `await fill(${target}, ${value}${where});`;
    case 'pick':
      return `await pick(${target}, ${value}${where});`;
    case 'keep':
      return `values[${JSON.stringify(step.keepAs ?? step.target)}] = await keep(${target}${where});`;
    case 'see':
    case 'wait':
      return `await see(${target}, ${toOptions(step)});`;
    default:
      return `throw new Error(${JSON.stringify(`To be done by hand: ${step.target}`)});`;
  }
}

function toWhere({ within, beside }: Step): string {
  const parts = [
    within === undefined ? [] : `within: ${toExpression(within)}`,
    beside === undefined ? [] : `beside: ${toExpression(beside)}`,
  ].flat();
  return parts.length === 0 ? '' : `, { ${parts.join(', ')} }`;
}

function toOptions({ value, check, seconds, within, beside }: Step): string {
  const parts = [
    value === undefined ? [] : `value: ${toExpression(value)}`,
    check === undefined ? [] : `check: ${JSON.stringify(check)}`,
    seconds === undefined ? [] : `seconds: ${seconds}`,
    within === undefined ? [] : `within: ${toExpression(within)}`,
    beside === undefined ? [] : `beside: ${toExpression(beside)}`,
  ].flat();
  return `{ ${parts.join(', ')} }`;
}

/** A template as an expression of the script. */
function toExpression(template: string): string {
  const parts = parseTemplate(template).map((part) => {
    if (part.kind === 'text') return JSON.stringify(part.text);
    if (part.kind === 'name') return `values[${JSON.stringify(part.name)}]`;
    return part.kind === 'new' ? `fresh(${JSON.stringify(part.pattern)})` : `day(${part.offset}, ${part.working})`;
  });
  return parts.length === 0 ? "''" : parts.join(' + ');
}
