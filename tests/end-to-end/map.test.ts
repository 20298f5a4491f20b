import type { MapView } from '@kindred-baton/contracts/map/node';
import type { Traceability } from '@kindred-baton/contracts/requirements/requirement';
import type { KeyInput } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Visitor } from '../support/browser.ts';
import type { OwnServer } from '../support/own-server.ts';
import { openOwnServer, toFile } from '../support/own-server.ts';

const API = '/api/brindlemere';
const TREE = '[role=tree][aria-label="Process map"]';

describe('the map and its requirements', () => {
  let own: OwnServer;
  let lead: Visitor;
  beforeAll(async () => {
    own = await openOwnServer('Lea Marsh');
    lead = own.visitor;
  });
  afterAll(() => own.close());

  const listBelow = async (code: string) => {
    const { nodes } = await lead.json<MapView>(`${API}/map`);
    const start = nodes.findIndex((node) => node.code === code);
    const depth = nodes[start]?.depth ?? 0;
    const end = nodes.findIndex((node, index) => index > start && node.depth <= depth);
    return nodes.slice(start + 1, end < 0 ? undefined : end).map((node) => `${'>'.repeat(node.depth - depth - 1)}${node.name}`);
  };
  const until = async (code: string, wanted: readonly string[]) => {
    for (let tries = 0; tries < 50 && JSON.stringify(await listBelow(code)) !== JSON.stringify(wanted); tries += 1)
      await new Promise((resolve) => setTimeout(resolve, 100));
    expect(await listBelow(code)).toEqual(wanted);
  };
  const press = async (key: KeyInput, ...held: KeyInput[]) => {
    for (const each of held) await lead.page.keyboard.down(each);
    await lead.page.keyboard.press(key);
    for (const each of held) await lead.page.keyboard.up(each);
  };
  const typeNew = async (name: string) => {
    await lead.page.waitForSelector('input[aria-label="Name of the new node"]');
    await lead.page.keyboard.type(name);
    await lead.page.keyboard.press('Enter');
  };
  const openMap = async (node: string) => {
    await lead.go(`/brindlemere/map?node=${node}`);
    await lead.page.focus(TREE);
  };
  const upload = async (file: string) => (await lead.page.$('input[type=file]'))?.uploadFile(file);

  it('is edited by keys: new siblings and children, rename, indent, move, undo and redo', async () => {
    await openMap('PU-3');
    const before = await listBelow('PU');
    await press('Enter');
    for (const name of ['Scrap it', 'Sell it']) await typeNew(name);
    await lead.page.waitForSelector('input[aria-label="Name of the new node"]');
    await lead.page.keyboard.press('Escape');
    await until('PU', [...before, 'Scrap it', 'Sell it']);
    await lead.page.waitForFunction(() => location.search.includes('node=PU-5'));
    await press('ArrowRight', 'Alt');
    await until('PU', [...before, 'Scrap it', '>Sell it']);
    await press('F2');
    await lead.page.waitForSelector('input[aria-label="Name of PU-5"]');
    await lead.page.keyboard.type('Sell it on');
    await lead.page.keyboard.press('Enter');
    await until('PU', [...before, 'Scrap it', '>Sell it on']);
    await press('z', 'Control');
    await until('PU', [...before, 'Scrap it', '>Sell it']);
    await press('z', 'Control');
    await until('PU', [...before, 'Scrap it', 'Sell it']);
    await press('ArrowUp', 'Alt');
    await until('PU', [...before, 'Sell it', 'Scrap it']);
    await press('z', 'Control');
    await until('PU', [...before, 'Scrap it', 'Sell it']);
    await press('z', 'Control', 'Shift');
    await until('PU', [...before, 'Sell it', 'Scrap it']);
  });

  it('takes a pasted list as a branch, and several rows are moved and removed at once', async () => {
    await openMap('PU-4');
    await lead.page.evaluate((selector) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', 'Value it\nAdvertise it\nHand it over');
      document.querySelector(selector)?.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    }, TREE);
    await lead.sees('3 nodes pasted below Scrap it.');
    expect(await listBelow('PU-4')).toEqual(['Value it', 'Advertise it', 'Hand it over']);
    await press('ArrowDown');
    await press('ArrowDown', 'Shift');
    await lead.sees('2 marked');
    await press('ArrowDown', 'Alt');
    await until('PU-4', ['Hand it over', 'Value it', 'Advertise it']);
    await press('Delete');
    await lead.sees('Nothing hangs on it. It can be undone.');
    await lead.press('Remove');
    await until('PU-4', ['Hand it over']);
    await press('z', 'Control');
    await until('PU-4', ['Hand it over', 'Value it', 'Advertise it']);
  });

  it('is moved by the mouse', async () => {
    await openMap('PU-4');
    const row = (name: string) => lead.page.waitForSelector(`::-p-xpath(//*[@role="treeitem"][.//span[text()="${name}"]])`);
    const [from, to] = [await row('Hand it over'), await row('Sell it')];
    await from?.scrollIntoView();
    const [start, end] = [await from?.clickablePoint(), await to?.clickablePoint()];
    await lead.page.mouse.move(start?.x ?? 0, start?.y ?? 0);
    await lead.page.mouse.down();
    await lead.page.mouse.move(end?.x ?? 0, (end?.y ?? 0) - 3, { steps: 4 });
    await lead.page.mouse.move(end?.x ?? 0, end?.y ?? 0);
    await lead.page.mouse.up();
    await until('PU-5', ['Hand it over']);
  });

  it('says what hangs on a branch before it goes, and retires it instead', async () => {
    await openMap('NS-1.4');
    await press('Delete');
    await lead.sees('On 1 node of it hang:');
    await lead.press('Retire it instead');
    await lead.sees('retired by Lea Marsh');
    expect((await lead.json<MapView>(`${API}/map`)).nodes.find(({ code }) => code === 'NS-1.4')?.isRetired).toBe(true);
  });

  it('tells everything of a node, and edits it with its description in Markdown', async () => {
    await openMap('NS-1.1');
    await lead.press('Edit');
    await lead.type('Description', 'Ask **twice**');
    await lead.type('Documents', 'Handbook https://brindlemere.example/handbook');
    await lead.press('Save');
    await lead.page.waitForFunction(() => document.querySelector('.prose strong')?.textContent === 'twice');
    await lead.find('Handbook', 'link');
    await lead.sees('description:');
    await lead.page.waitForFunction(() => document.querySelector('[role=treeitem][aria-selected=true]')?.textContent?.includes('changed'));
  });

  it('has its own level names', async () => {
    await lead.go('/brindlemere/map');
    await lead.press('Levels');
    await lead.press('One more level');
    await lead.type('Name of level 4', 'detail');
    await lead.press('Save');
    await lead.sees('in 4 levels');
  });

  it('is compared with a process list, and takes in the branches that are chosen', async () => {
    const list = [
      'No.;Process name;Team',
      'NS-1.2;Check the street;Customer desk',
      'ZZ;Lamps;Lamp crew',
      'ZZ-1;Report a lamp;Lamp crew',
      'YY;Bins;',
    ].join('\n');
    await lead.go('/brindlemere/map/import');
    await upload(toFile('list.csv', list));
    await lead.sees('Team “Lamp crew” is not in this programme.');
    await lead.press('Add the team Lamp crew to the programme', 'checkbox');
    await lead.sees('3 new');
    await lead.sees('name: Check the address → Check the street');
    await lead.press('Take YY and its branch in', 'checkbox');
    await lead.press('Take it all in');
    await lead.sees('list.csv is taken in');
    const { nodes } = await lead.json<MapView>(`${API}/map`);
    const at = (code: string) => nodes.find((node) => node.code === code);
    expect([at('NS-1.2')?.name, at('ZZ-1')?.team, at('YY')]).toEqual(['Check the street', 'Lamp crew', undefined]);
    await lead.go('/brindlemere/map/import');
    await upload(toFile('again.csv', list.replace('\nYY;Bins;', '')));
    await lead.sees('nothing to take in');
  });

  it.each(['xlsx', 'csv', 'json', 'bpmn'])('written as %s and read again is the same map', async (format) => {
    const bytes = await lead.page.evaluate(
      async (address) => [...new Uint8Array(await (await fetch(address)).arrayBuffer())],
      `${API}/map/export?format=${format}`,
    );
    await lead.go('/brindlemere/map/import');
    await upload(toFile(`map.${format}`, Uint8Array.from(bytes)));
    await lead.sees(/\d+ same · nothing to take in/);
  });

  it('shows where requirements have no test, and links one in the matrix', async () => {
    await lead.go('/brindlemere/requirements?scope=NS-2');
    await lead.press('· 1 no test');
    await lead.page.waitForFunction(() => document.querySelectorAll('[aria-label=Requirements] [role=row]').length === 2);
    await lead.go('/brindlemere/requirements?scope=NS-2&view=matrix');
    await lead.press('RQ-014 and BIL-01: not linked');
    await lead.page.waitForSelector('button[aria-label^="RQ-014 and BIL-01: Failing: "]');
    const { requirements } = await lead.json<Traceability>(`${API}/requirements`);
    expect(requirements.find(({ code }) => code === 'RQ-014')).toMatchObject({ state: 'refuted', tests: ['BIL-01'] });
  });

  it('adds a requirement, and takes a list of them in', async () => {
    await lead.go('/brindlemere/requirements');
    await lead.press('New requirement');
    await lead.type('What must hold', 'A lamp is mended within a week');
    await lead.type('Processes', 'ZZ-1');
    await lead.press('Save');
    await lead.sees('No test shows it yet.');
    await lead.go('/brindlemere/map/import?kind=requirements');
    await upload(
      toFile(
        'requirements.csv',
        'ID,Requirement,Type,Tests\nRQ-001,An application can be taken in one call,Functional,CUS-01\nRQ-900,Bins are emptied,business,NOPE',
      ),
    );
    await lead.sees('Test NOPE, linked by RQ-900, is not in the library.');
    await upload(
      toFile(
        'better.csv',
        'ID,Requirement,Type,Tests\nRQ-001,An application can be taken in one call,Functional,CUS-01\nRQ-900,Bins are emptied,business,',
      ),
    );
    await lead.sees('1 new, 1 changed');
    await lead.press('Take it all in');
    await lead.sees('better.csv is taken in');
  });
});
