/** What a runner costs: looking at a screen, finding on it, a test beside the same acts by hand, and more sessions beside one. */
import { randomUUID } from 'node:crypto';
import { createCapture } from '@kindred-baton/core/screens/create-capture';
import { findElement } from '@kindred-baton/core/screens/find-element';
import { readSnapshot, SNAPSHOT_STYLES } from '@kindred-baton/core/screens/read-snapshot';
import { readOutline } from '@kindred-baton/store/demo/read-outline';
import { NEW_SUPPLY } from '@kindred-baton/store/demo/streams/new-supply';
import type { Practice } from '../tests/support/practice.ts';
import { openPractice } from '../tests/support/practice.ts';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';

const ROWS = 300;
/** 1,500 elements, 3,000 nodes: rows of a label, a field, a button, a link, a text. */
const BIG_PAGE = `<title>Big</title><table>${Array.from({ length: ROWS }, (_, k) => `<tr><td>Label ${k}</td><td><input value="${k}"></td><td><button>Act ${k}</button></td></tr>`).join('')}</table>`;

const timeIt = async (run: () => Promise<unknown> | unknown, rounds: number): Promise<number> => {
  const times: number[] = [];
  for (let k = 0; k < rounds + 2; k += 1) {
    const from = performance.now();
    await run();
    if (k >= 2) times.push(performance.now() - from);
  }
  return median(times);
};

export async function benchRunner(databaseUrl: string): Promise<Figure[]> {
  // The practice application has a database of its own beside that of the bench.
  process.env['KINDRED_BATON_TEST_SERVER'] ??= databaseUrl;
  const practice = await openPractice();
  try {
    await practice.deploy('rehearsal', { faults: [] });
    return [...(await benchScreens(practice)), ...(await benchNineSteps(practice)), ...(await benchSessions(practice))];
  } finally {
    await practice.close();
  }
}

async function benchScreens(practice: Practice): Promise<Figure[]> {
  const session = await practice.open();
  const { page, cdp } = session.tab();
  await page.setContent(BIG_PAGE);
  const take = () => cdp.send('DOMSnapshot.captureSnapshot', { computedStyles: [...SNAPSHOT_STYLES] });
  const captureMs = await timeIt(() => session.tab().capture(), 15);
  const treeMs = await timeIt(() => cdp.send('Accessibility.getFullAXTree'), 7);
  const { nodes, ...about } = readSnapshot(await take());
  const capture = createCapture(nodes, about);
  const findMs = await timeIt(() => findElement(capture, { want: 'press', name: 'Act 250' }), 31);
  await session.close();
  const size = `${nodes.length} nodes, ${capture.elements.length} elements`;
  return [
    { name: 'a capture', value: captureMs, bound: 100, unit: 'ms', note: size },
    {
      name: 'a capture, to the browser’s own accessibility tree',
      value: captureMs / treeMs,
      bound: 1,
      unit: '×',
      note: `${treeMs.toFixed(0)} ms`,
    },
    { name: 'finding an element', value: findMs, bound: 2, unit: 'ms', note: size },
  ];
}

const NINE = readOutline(NEW_SUPPLY).tests.find(({ code }) => code === 'CUS-01')!.steps;
const STEPS = [...NINE, ...NINE.slice(0, 2)];
const VALUES = { Customer: 'Tallis Bakery', 'Customer band': 'B' };

/** The same acts as somebody writes them who knows the page, a picture after each. */
async function doByHand(practice: Practice): Promise<void> {
  const session = await practice.open();
  const { page } = session.tab();
  const shoot = () => page.screenshot({ type: 'jpeg', quality: 70, optimizeForSpeed: true });
  const andWait = (run: () => Promise<unknown>) => Promise.all([page.waitForNavigation({ waitUntil: 'load' }), run()]);
  const pressNew = () => andWait(() => page.click('input[value="New application"]'));
  await page.goto(`${practice.address}/rehearsal/customer`);
  await page.type('#user', 'DESK01');
  await page.type('#password', 'practice-rehearsal');
  await andWait(() => page.click('input[type=submit]'));
  await andWait(() => page.click('nav a:nth-child(1)'));
  await shoot();
  await pressNew();
  await shoot();
  await page.type('input[name="f:Customer name"]', VALUES.Customer);
  await shoot();
  await page.select('select[name="f:Customer band"]', 'B');
  await shoot();
  await page.type('input[name="f:Wanted by"]', new Date(Date.now() + 30 * 86_400_000).toISOString().slice(0, 10));
  await shoot();
  await andWait(() => page.click('input[value="Save application"]'));
  await shoot();
  await page.$eval('input[name="f:Application number"]', (field) => (field as HTMLInputElement).value);
  await shoot();
  await andWait(() => page.click('nav a:nth-child(1)'));
  await shoot();
  await pressNew();
  await shoot();
  await session.close();
}

async function doByWords(practice: Practice): Promise<void> {
  const { outcome, steps } = await practice.run(STEPS, VALUES, { pictures: 'each step', attempt: randomUUID() });
  if (outcome !== 'passed') throw new Error(`The bench's test did not pass: ${steps.at(-1)?.note}`);
}

async function benchNineSteps(practice: Practice): Promise<Figure[]> {
  const byHand = await timeIt(() => doByHand(practice), 7);
  const byWords = await timeIt(() => doByWords(practice), 7);
  const note = `${byWords.toFixed(0)} ms beside ${byHand.toFixed(0)} ms, pictures on`;
  return [{ name: 'nine steps by words, to the same by hand', value: byWords / byHand, bound: 1.3, unit: '×', note }];
}

const TURNS = 12;

async function benchSessions(practice: Practice): Promise<Figure[]> {
  const work = async (sessions: number) => {
    const from = performance.now();
    let left = TURNS;
    const one = async () => {
      while (left > 0) {
        left -= 1;
        await doByWords(practice);
      }
    };
    await Promise.all(Array.from({ length: sessions }, one));
    return performance.now() - from;
  };
  await work(2);
  const [one, four] = [await work(1), await work(4)];
  return [
    {
      name: 'time of a turn with four sessions, to one',
      value: four / one,
      bound: 1 / 1.7,
      unit: '×',
      note: `${(one / four).toFixed(2)} × the turns`,
    },
  ];
}
