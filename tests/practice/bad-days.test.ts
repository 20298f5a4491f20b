import { takePicture } from '@kindred-baton/runner/browser/take-picture';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { startBrowser } from '@kindred-baton/runner/browser/start-browser';
import { openSession } from '@kindred-baton/runner/browser/open-session';
import { createReach } from '@kindred-baton/runner/browser/reach';
import { parseStep } from '@kindred-baton/core/tests/parse-step';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Practice } from '../support/practice.ts';
import { openPractice } from '../support/practice.ts';

const toSteps = (text: string) =>
  text
    .trim()
    .split('\n')
    .map((line) => {
      const reading = parseStep(line.trim());
      if (!reading.ok) throw new Error(reading.message);
      return reading.step;
    });

/** Pages of an application that nobody wrote for us, each with something that goes wrong in real ones. */
const PAGES: Readonly<Record<string, string>> = {
  '/': '<title>Odd</title><nav><a href="/twice">Twice</a> <a href="/late">Late</a> <a href="/asks">Asks</a> <a href="/away">Away</a> <a href="/tab">Tab</a> <a href="/never">Never</a> <a href="/right">Right</a> <a href="/many">Many</a> <a href="/file">File</a> <a href="/over">Over</a> <a href="/mask">Mask</a></nav>',
  '/twice':
    '<h2>Sender</h2><button onclick="said.textContent=1">Change</button><h2>Receiver</h2><button onclick="said.textContent=2">Change</button><p id=said></p><button hidden>Old act</button>',
  '/late':
    '<iframe title="Slow part" srcdoc="<script>setTimeout(()=>document.body.innerHTML=\'<button onclick=&quot;this.textContent=\\\'Done\\\'&quot;>Go on</button>\',700)</script>"></iframe>',
  '/asks': '<button onclick="alert(\'Saved as 77\')">Save</button><button onclick="document.title = confirm(\'Really?\')">Drop</button>',
  '/away': '<script>location.href="http://localhost:9/elsewhere"</script>',
  '/tab': '<a href="/twice" target="_blank">Open it</a>',
  '/never':
    '<p id=n>0</p><script>setInterval(()=>{n.textContent=+n.textContent+1;fetch("/tick")},40)</script><button onclick="document.body.append(\'Pressed\')">Press me</button>',
  '/many': `<table><tr><th>Bill</th><th>Act</th></tr>${Array.from({ length: 5_000 }, (_, k) => `<tr><td>BL-${k}</td><td><button onclick="document.title=${k}; said.textContent='Pressed ${k}'">Open</button></td></tr>`).join('')}</table><p id=said></p>`,
  '/over': '<button>Below</button><div style="position:fixed;inset:0;background:#fffc">We use biscuits</div>',
  '/mask': '<label>Amount <input type=number></label>',
  '/file': '<a download="bills.txt" href="data:text/plain,1">Take away</a>',
  '/right': '<html dir=rtl><label for=a>اسم العميل</label><input id=a><button onclick="document.body.append(a.value)">حفظ</button>',
};

describe('a runner on a bad day', { timeout: 120_000, retry: 2 }, () => {
  let practice: Practice;
  const odd = createServer((request, response) => {
    const page = PAGES[request.url ?? ''];
    response.writeHead(page === undefined ? 404 : 200, { 'content-type': 'text/html; charset=utf-8' });
    response.end(page === undefined ? '' : page + (request.url === '/' ? '' : '<nav><a href="/">Home</a></nav>'));
  });
  let address = '';
  beforeAll(async () => {
    practice = await openPractice();
    await practice.deploy('rehearsal', { faults: [] });
    await new Promise<void>((resolve) => odd.listen(0, '127.0.0.1', resolve));
    address = `http://127.0.0.1:${(odd.address() as AddressInfo).port}`;
  }, 60_000);
  afterAll(async () => {
    await practice.close();
    await new Promise((resolve) => odd.close(resolve));
  });

  const runOdd = async (text: string, patienceMs = 800) => {
    const session = await openSession(practice.host, { reach: createReach([address]) });
    const more = { session, patienceMs, applications: [{ name: 'Odd', address }], account: undefined };
    return practice.run(toSteps(text), {}, more).finally(() => session.close());
  };
  const told = ({ outcome, steps }: Awaited<ReturnType<typeof runOdd>>) => [outcome, steps.at(-1)?.note || steps.at(-1)?.actual];
  const QUOTES = 'Go to "Quotes" in "Millrace Billing"';

  it('does not choose between two of a name, and finds each by its part', async () => {
    expect(told(await runOdd('Go to "Twice" in "Odd"\nPress "Change"'))).toEqual([
      'blocked',
      '“Change” is on this screen 2 times; the step should say what it stands in or beside.',
    ]);
    expect(told(await runOdd('Go to "Twice" in "Odd"\nPress "Change" in "Receiver". You should see: “2”'))).toEqual(['passed', '“2”']);
    expect(told(await runOdd('Go to "Twice" in "Odd"\nPress "Old act"'))).toEqual([
      'blocked',
      '“Old act” is on this screen, but it cannot be seen.',
    ]);
  });

  it('waits for a frame that loads late, and follows a new tab', async () => {
    expect((await runOdd('Go to "Late" in "Odd"\nPress "Go on" in "Slow part". You should see: “Done”', 4_000)).outcome).toBe('passed');
    expect((await runOdd('Go to "Tab" in "Odd"\nPress "Open it"\nPress "Change" in "Sender". You should see: “1”', 4_000)).outcome).toBe(
      'passed',
    );
  });

  it('is not kept by a page that asks again and again', async () => {
    const { outcome, steps } = await runOdd('Go to "Never" in "Odd"\nPress "Press me". You should see: “Pressed”');
    expect(outcome).toBe('passed');
    expect(steps.at(-1)?.tookMs).toBeLessThan(5_000);
  });

  it('waits for what a step gives time to, ends as soon as it is decided, and counts what is there', async () => {
    const { outcome, steps } = await runOdd(
      'Go to "Late" in "Odd"\nSee "Go on" in "Slow part", within 20 seconds\nSee "Gone on" not there',
      300,
    );
    expect(outcome).toBe('passed');
    expect(steps[1]?.tookMs).toBeLessThan(10_000);
    expect(told(await runOdd('Go to "Twice" in "Odd"\nSee "Change" counting "3"'))).toEqual(['failed', '2']);
  });

  it('says what lies over a button, and what a field does not take, and loses no word', async () => {
    expect(told(await runOdd('Go to "Over" in "Odd"\nPress "Below"'))).toEqual([
      'blocked',
      '“Below” cannot be pressed: We use biscuits lies over it.',
    ]);
    expect(told(await runOdd('Go to "Mask" in "Odd"\nFill "Amount" with "twelve"'))).toEqual([
      'blocked',
      '“Amount” does not take “twelve”; it holds nothing.',
    ]);
  });

  it('finds one of five thousand rows, and takes a file that comes as said', async () => {
    const words = 'Go to "Many" in "Odd"\nPress "Open" beside "BL-4711". You should see: “Pressed 4711”';
    expect(told(await runOdd(words, 20_000))).toEqual(['passed', '“Pressed 4711”']);
    expect(told(await runOdd('Go to "File" in "Odd"\nPress "Take away". You should see: “bills.txt”', 4_000))).toEqual([
      'passed',
      '“bills.txt”',
    ]);
  });

  it('takes a message box as said, and a question that no step answers as what blocks', async () => {
    expect((await runOdd('Go to "Asks" in "Odd"\nPress "Save". You should see: “Saved as 77”')).outcome).toBe('passed');
    expect(told(await runOdd('Go to "Asks" in "Odd"\nPress "Drop"'))).toEqual([
      'blocked',
      'The application asked “Really?”, and no step answers it; it was answered with no.',
    ]);
  });

  it('goes nowhere but where it may, and reads words from right to left', async () => {
    expect((await runOdd('Go to "Away" in "Odd"\nSee "Home"')).outcome).toBe('failed');
    expect((await runOdd('Go to "Right" in "Odd"\nFill "اسم العميل" with "ليلى"\nPress "حفظ". You should see: “ليلى”')).outcome).toBe(
      'passed',
    );
  });

  it('says that an application is out of service, is slow, or is not there at all', async () => {
    await practice.deploy('rehearsal', { isDown: true });
    expect(told(await practice.run(toSteps(QUOTES), {}))).toEqual(['blocked', 'Millrace Billing answers with an error (503).']);
    await practice.deploy('rehearsal', { isDown: false, slowMs: 700 });
    expect((await practice.run(toSteps(`${QUOTES}. You should see: “The list of open quotes”`), {})).outcome).toBe('passed');
    await practice.deploy('rehearsal', { slowMs: 0 });
    const nowhere = [{ name: 'Millrace Billing', address: 'http://127.0.0.1:9/billing' }];
    const session = await openSession(practice.host, { reach: createReach(['http://127.0.0.1:9']) });
    expect(told(await practice.run(toSteps(QUOTES), {}, { session, applications: nowhere }))[0]).toBe('blocked');
    await session.close();
  });

  it('tries a wrong password once, and shows it nowhere', async () => {
    const wrong = { user: 'BILL01', password: 'not-the-password-of-anything' };
    const report = await practice.run(toSteps(`${QUOTES}\n${QUOTES}`), {}, { account: wrong });
    expect(told(report)).toEqual(['blocked', 'The sign-in of BILL01 was refused.']);
    expect(JSON.stringify(report)).not.toContain(wrong.password);
  });

  it('signs in again where the session ended in the middle', async () => {
    const session = await practice.open();
    expect((await practice.run(toSteps(QUOTES), {}, { session })).outcome).toBe('passed');
    await practice.deploy('rehearsal', { endSessions: true });
    expect((await practice.run(toSteps(`${QUOTES}. You should see: “The list of open quotes”`), {}, { session })).outcome).toBe('passed');
    await session.close();
  });

  it('fails where the application answers otherwise, with what was expected and what stood there', async () => {
    await practice.deploy('rehearsal', { faults: ['band'] });
    const survey = await practice.run(
      toSteps(`Go to "Applications" in "Millrace Customer"
        Press "New application"
        Fill "Customer name" with "Tallis Bakery"
        Pick "Customer band" with "B"
        Fill "Wanted by" with {today + 30 days}
        Press "Save application"
        Keep "Application number" as "Application no."`),
      {},
    );
    const measured = await practice.run(
      toSteps(`Go to "Surveys" in "Millrace Works"
        Fill "Application number" with {Application no.}
        Press "Begin survey"
        Fill "Pipe length" in "Measurements" with "14.5"
        Press "Save survey"
        Keep "Survey number" as "Survey no."`),
      survey.kept,
    );
    const pictures = new Map<number, Uint8Array>();
    const priced = await practice.run(
      toSteps(`${QUOTES}
        Press "New quote"
        Fill "Survey number" with {Survey no.}
        Pick "Customer band" with "B"
        See "Connection charge" showing "512.50"`),
      measured.kept,
      { patienceMs: 1_000, pictures: 'failed steps', onStep: (report, picture) => picture && pictures.set(report.index, picture) },
    );
    expect(priced.outcome).toBe('failed');
    // Band C: 420.00 and 4.5 m at 49.50.
    expect(priced.steps.at(-1)).toMatchObject({ index: 4, outcome: 'failed', expected: '512.50', actual: '642.75' });
    // Its picture, a JPEG, and no other.
    expect([...pictures.keys()]).toEqual([4]);
    expect([...(pictures.get(4) ?? []).slice(0, 3)]).toEqual([0xff, 0xd8, 0xff]);
    expect(priced.steps.at(-1)?.place).not.toBeNull();
    await practice.deploy('rehearsal', { faults: [] });
  });

  it('shows no secret on a picture, wherever on the screen it stands', async () => {
    const session = await practice.open();
    const { page } = session.tab();
    const draw = async (secret: string, hidden: readonly string[]) => {
      await page.setContent(
        `<p>The key is ${secret}</p><input value="${secret}"><div id="host"></div><iframe srcdoc="<p>${secret}</p>"></iframe>`,
      );
      await page.evaluate((text) => {
        document.getElementById('host')!.attachShadow({ mode: 'open' }).innerHTML = `<b>${text}</b>`;
      }, secret);
      return Buffer.from((await takePicture(session.tab(), null, hidden))!).toString('base64');
    };
    // Letters of one width: where both are hidden the pictures are the same.
    expect(await draw('KEY-nnnn', ['KEY-nnnn'])).toBe(await draw('KEY-uuuu', ['KEY-uuuu']));
    expect(await draw('KEY-nnnn', [])).not.toBe(await draw('KEY-uuuu', []));
    expect(await page.evaluate(() => document.querySelector('p')!.style.visibility)).toBe('');
    await session.close();
  });

  it('is blocked by a name that a release changed, and says the nearest', async () => {
    const steps = toSteps(`${QUOTES}\nPress "New quote"\nFill "Survey number" with "SV-10001"`);
    const report = await practice.run(steps, {}, { environment: 'integration', patienceMs: 800 });
    expect(told(report)).toEqual(['blocked', 'There is no field “Survey number” on this screen; the nearest is “Survey reference”.']);
  });

  it('says that the browser ended in the middle, and leaves the next one untouched', async () => {
    const host = await startBrowser(process.env['CHROMIUM_PATH'] ?? '/usr/bin/chromium');
    const session = await openSession(host, { reach: createReach([address]) });
    const more = { session, patienceMs: 20_000, applications: [{ name: 'Odd', address }], account: undefined };
    const running = practice.run(toSteps('Go to "Twice" in "Odd"\nWait for "What never comes"'), {}, more);
    setTimeout(() => host.browser.process()?.kill('SIGKILL'), 1_500);
    expect(told(await running)).toEqual(['blocked', 'The browser ended in the middle of this step.']);
    await host.close();
    expect((await runOdd('Go to "Twice" in "Odd"')).outcome).toBe('passed');
  });
});
