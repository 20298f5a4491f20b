import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { launchBrowser, openAs } from '../support/browser.ts';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import type { OwnServer } from '../support/own-server.ts';
import { openOwnServer, toFile } from '../support/own-server.ts';

interface Detail {
  readonly state: string;
  readonly document: {
    readonly legs: readonly {
      id: string;
      test: string | null;
      title: string | null;
      note: string;
      team: string | null;
      version: number | null;
      wires: readonly unknown[];
    }[];
    readonly columns: readonly { name: string }[];
    readonly rows: readonly { name: string; values: Record<string, string> }[];
  };
}

describe('scenarios in full', () => {
  let server: OwnServer;
  let lead: Visitor;
  let second: TestBrowser;
  let author: Visitor;
  beforeAll(async () => {
    server = await openOwnServer('Lea Marsh');
    lead = server.visitor;
    second = await launchBrowser();
    author = await openAs(second.browser, new URL(lead.page.url()).origin, 'Edda Quill');
  });
  afterAll(async () => {
    await second.close();
    await server.close();
  });

  const detail = (code: string) => lead.json<Detail>(`/api/brindlemere/scenarios/${code}`);
  const until = async (code: string, isSo: (detail: Detail) => boolean) => {
    for (let tries = 0; tries < 80; tries += 1) {
      const now = await detail(code);
      if (isSo(now)) return now;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error(
      `Scenario ${code} did not come to what was waited for: ${JSON.stringify((await detail(code)).document.legs).slice(0, 1_500)}`,
    );
  };
  const begin = async (code: string, name: string) => {
    await lead.go('/brindlemere/scenarios?scope=NS');
    await lead.press('New scenario');
    await lead.type('Name', name);
    await lead.type('Code', code);
    await Promise.all([lead.page.waitForNavigation(), lead.press('Begin the sketch')]);
    await lead.settle();
  };

  it('begins in the workshop: lines become open legs in lanes, with what they need and give', async () => {
    await begin('WS-1', 'From the workshop');
    await lead.press('Add legs');
    await lead.press('In lines');
    await lead.type(
      'Legs, a line each',
      'Field crews: fit the meters (job no.) → meter serial\nLegal: sign it off\nMetering: register the meter (meter serial)',
    );
    await lead.sees('“Legal” is no team yet');
    await lead.press('Add 3 open legs');
    const { document } = await until('WS-1', ({ document: { legs } }) => legs.length === 3);
    expect(document.legs.map(({ title, note }) => [title, note])).toEqual([
      ['Fit the meters', ''],
      ['Sign it off', 'Lane in the workshop: Legal'],
      ['Register the meter', ''],
    ]);
    await lead.press('Close');
    await lead.find('Leg 1: Fit the meters open, 1 to fix');
  });

  it('proposes a test for an open leg with its reasons, and makes a draft of another', async () => {
    await lead.press('Leg 3: Register the meter open');
    await lead.sees('same words:');
    await lead.press('Take MET-01');
    await until('WS-1', ({ document: { legs } }) => legs[2]?.test === 'MET-01');
    await lead.press('Leg 2: Sign it off open, has a note');
    // The leg before is shown until then, with a button of the same name.
    await lead.find('Leg: Sign it off', 'complementary');
    await lead.press('Make a draft test of it');
    await lead.type('Code', 'LEG-01');
    const buttons = await lead.page.$$('[role=dialog] button[type=submit]');
    await buttons[0]?.click();
    await until('WS-1', ({ document: { legs } }) => legs[1]?.test === 'LEG-01');
    const { version } = await lead.json<{ version: { state: string } }>('/api/brindlemere/tests/LEG-01');
    expect(version.state).toBe('draft');
  });

  it('moves legs and gives them to other lanes by keys; Ctrl Z takes it back, with Shift makes it again', async () => {
    await lead.go('/brindlemere/scenarios/NS-S4?run=none');
    const before = (await detail('NS-S4')).document.legs.map(({ id }) => id);
    await (await lead.find('Leg 2: Survey the site FLD-01')).focus();
    const alt = async (key: 'ArrowLeft' | 'ArrowDown') => {
      await lead.page.keyboard.down('Alt');
      await lead.page.keyboard.press(key);
      await lead.page.keyboard.up('Alt');
    };
    await alt('ArrowLeft');
    await until('NS-S4', ({ document: { legs } }) => legs[0]?.id === before[1]);
    await lead.page.keyboard.down('Control');
    await lead.page.keyboard.press('z');
    await lead.page.keyboard.up('Control');
    await until('NS-S4', ({ document: { legs } }) => legs[0]?.id === before[0]);
    await lead.press('Redo');
    await until('NS-S4', ({ document: { legs } }) => legs[0]?.id === before[1]);
    await lead.press('Undo');
    await until('NS-S4', ({ document: { legs } }) => legs[0]?.id === before[0]);
    await (await lead.find('Leg 2: Survey the site FLD-01')).focus();
    await alt('ArrowDown');
    await until('NS-S4', ({ document: { legs } }) => legs[1]?.team !== null);
    await lead.press('Undo');
    await until('NS-S4', ({ document: { legs } }) => legs[1]?.team === null);
  });

  it('takes a test that is dragged from the library into the chain', async () => {
    await lead.press('Add legs');
    await lead.type('Words in codes, names, steps and values', 'BIL-05');
    await lead.page.waitForFunction(() =>
      globalThis.document.querySelector('aside ul[aria-label=Tests] li')?.textContent?.includes('BIL-05'),
    );
    const test = await lead.find('Let a quote lapse BIL-05 Billing');
    const leg = await lead.find('Leg 3: Price the quote BIL-01');
    const [from, to] = await Promise.all([test.boundingBox(), leg.boundingBox()]);
    if (!from || !to) throw new Error('What is dragged, or where to, is not on the screen.');
    await lead.page.mouse.move(from.x + 60, from.y + 10);
    await lead.page.mouse.down();
    await lead.page.mouse.move(to.x + 10, to.y + 20, { steps: 8 });
    // The mark that shows where it would go.
    await lead.page.waitForSelector('span.bg-baton');
    await lead.page.mouse.move(to.x + 12, to.y + 20);
    await lead.page.waitForSelector('span.bg-baton');
    await lead.page.mouse.up();
    const { document } = await until('NS-S4', ({ document: { legs } }) => legs.some(({ test: code }) => code === 'BIL-05'));
    expect(document.legs[2]?.test).toBe('BIL-05');
    await lead.press('Undo');
    await until('NS-S4', ({ document: { legs } }) => !legs.some(({ test: code }) => code === 'BIL-05'));
    await lead.press('Close');
  });

  it('lights the way of a value, and wires a need by hand', async () => {
    await lead.press('Leg 1: Take the application CUS-01');
    await lead.press('Application no. to leg 2');
    await lead.page.waitForFunction(() => location.search.includes('value=Application'));
    await lead.press('Leg 3: Price the quote BIL-01');
    await lead.press('Wire Survey no. otherwise');
    await (await lead.find('Survey no. comes from', 'combobox')).select('fixed');
    await lead.type('The value', 'SV-40172');
    await lead.press('Set');
    await lead.sees('always SV-40172');
    await until('NS-S4', ({ document: { legs } }) => legs[2]?.wires.length === 1);
    await lead.press('Undo');
    await until('NS-S4', ({ document: { legs } }) => legs[2]?.wires.length === 0);
  });

  it('shows the wiring as a walk-through with examples, and gets out of a finding with one click', async () => {
    await lead.go('/brindlemere/scenarios/WS-1?view=wiring');
    await lead.sees('Then the baton holds');
    await lead.sees('Leg 1 needs Job no., and nothing gives it.');
    await lead.press('Add a column for it');
    await until('WS-1', ({ document: { columns } }) => columns.length === 1);
    await lead.sees('column Job no.');
  });

  it('pastes data rows, makes rows from classes, and keeps those that have run', async () => {
    await lead.go('/brindlemere/scenarios/LR-S1?view=rows');
    const ran = (await detail('LR-S1')).document.rows.length;
    await lead.type('Classes of Place', '');
    await lead.type('Classes of Crew hours', '2, 4, -1');
    await (await lead.find('Make rows')).focus();
    await lead.press('Crew hours -1 invalid');
    await lead.press('Make rows');
    await lead.sees(/rows let all \d+ pairs meet; fewer than \d+ cannot/);
    const button = await lead.page.waitForSelector('::-p-text(Take the)');
    await button?.click();
    const made = await until('LR-S1', ({ document: { rows } }) => rows.length > ran);
    expect(made.document.rows.slice(0, ran).every(({ name }) => !name.includes(':'))).toBe(true);
    expect(made.document.rows.filter(({ values }) => values['Crew hours'] === '-1').length).toBeGreaterThan(0);
    await lead.press('Undo');
    await until('LR-S1', ({ document: { rows } }) => rows.length === ran);
  });

  it('finds the cheapest chain to a value, and takes it over as a sketch that wires clean', async () => {
    await lead.go('/brindlemere/scenarios?view=find');
    await lead.type('A value or a test to reach', 'Receipt no.');
    await lead.press('Find');
    await lead.sees('gives Receipt no. to the goal');
    await lead.press('Take it over as a sketch');
    await lead.type('Name', 'To the receipt');
    await lead.type('Code', 'FOUND-1');
    await Promise.all([lead.page.waitForNavigation(), lead.press('Begin the sketch')]);
    await lead.settle();
    await lead.sees('Every baton arrives.');
    expect((await detail('FOUND-1')).document.legs.map(({ test }) => test)).toEqual(['CUS-01', 'FLD-01', 'BIL-01', 'FIN-01']);
  });

  it('reviews the newer version of a test, and takes it over in one scenario', async () => {
    await lead.go('/brindlemere/scenarios?view=review&test=BIL-09');
    await lead.sees('It now needs Insurer.');
    await lead.sees('needs Insurer, and nothing gives it');
    await lead.press('Mark LR-S2', 'checkbox');
    await lead.press('Take over in 1 scenario');
    await lead.sees('Taken over in 1 scenario.');
    await until('LR-S2', ({ document: { legs } }) => legs.every(({ version }) => version === null));
    expect((await detail('LR-S1')).document.legs.some(({ version }) => version === 1)).toBe(true);
  });

  it('stands beside an earlier state of itself', async () => {
    await lead.go('/brindlemere/scenarios/LR-S2?view=compare');
    await lead.sees('version: 1 → none');
  });

  it('shows what another does at once, and tells two who change the same', async () => {
    await lead.go('/brindlemere/scenarios/NS-S6?run=none');
    await author.go('/brindlemere/scenarios/NS-S6?run=none');
    await author.press('Leg 1: Take the application CUS-01');
    await author.press('Take this leg out');
    await lead.find('Leg 1: Survey the site FLD-01, 1 to fix');
    await author.press('Undo');
    await lead.find('Leg 1: Take the application CUS-01');
    const { document } = await detail('NS-S6');
    const [first] = document.legs;
    const say = (visitor: Visitor, note: string) =>
      visitor.page.evaluate(
        async (leg, text) => {
          const edits = [{ kind: 'change leg', leg, change: { note: text }, was: { note: '' } }];
          const answer = await fetch('/api/brindlemere/scenarios/NS-S6/document', {
            method: 'PATCH',
            headers: { 'content-type': 'application/json' },
            body: JSON.stringify({ edits }),
          });
          return `${answer.status} ${await answer.text()}`;
        },
        first?.id ?? '',
        note,
      );
    expect(await say(author, 'Mind the dog')).toMatch(/^200/);
    expect(await say(lead, 'Ring first')).toMatch(/^409.*Mind the dog.*Ring first/s);
  });

  it('takes a process drawing in as a sketch, and goes out in every format', async () => {
    const bpmn = `<definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL"><process id="P" name="Pump repair"><laneSet id="L">
      <lane id="L1" name="Field crews"><flowNodeRef>a</flowNodeRef></lane><lane id="L2" name="Legal"><flowNodeRef>b</flowNodeRef></lane></laneSet>
      <task id="a" name="Find the fault"/><task id="b" name="Price the quote"/><sequenceFlow id="f" sourceRef="a" targetRef="b"/></process></definitions>`;
    await lead.go('/brindlemere/map/import?kind=scenario');
    await (await lead.page.$('input[type=file]'))?.uploadFile(toFile('pump.bpmn', bpmn));
    await lead.page.waitForSelector('main details summary').then((summary) => summary?.click());
    await lead.sees('is taken for the test BIL-01');
    await lead.sees('Give the scenario a code.');
    await lead.type('Code', 'PUMP-1');
    await lead.page.keyboard.press('Tab');
    await lead.page.waitForFunction(() => !globalThis.document.body.innerText.includes('Give the scenario a code.'));
    await (await lead.find('Belongs to', 'combobox')).select('PU');
    await lead.sees('2 legs for a new sketch');
    await lead.press('Take it all in');
    await lead.sees('pump.bpmn is taken in');
    expect((await detail('PUMP-1')).document.legs.map(({ test, title }) => test ?? title)).toEqual(['Find the fault', 'BIL-01']);
    const statuses = await lead.page.evaluate(() =>
      Promise.all(
        ['xlsx', 'bpmn', 'feature', 'room', 'nothing'].map(async (format) => {
          const answer = await fetch(`/api/brindlemere/scenarios/PUMP-1/export?format=${format}`);
          return `${format} ${answer.status} ${(await answer.arrayBuffer()).byteLength > 100}`;
        }),
      ),
    );
    expect(statuses).toEqual(['xlsx 200 true', 'bpmn 200 true', 'feature 200 true', 'room 200 true', 'nothing 400 true']);
  });

  it('has had no error in the page', () => {
    expect([...lead.errors, ...author.errors].filter((error) => !/409|400/.test(error))).toEqual([]);
  });
});
