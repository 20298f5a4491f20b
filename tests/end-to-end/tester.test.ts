import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Visitor } from '../support/browser.ts';
import type { OwnServer } from '../support/own-server.ts';
import { openOwnServer } from '../support/own-server.ts';

/** Karim has several ready turns; one is blocked here, with everything else that the guide can do on the way. */
describe('what a tester does beside the walk', () => {
  let own: OwnServer;
  let karim: Visitor;
  let turnId: string;
  beforeAll(async () => {
    own = await openOwnServer('Karim Bol');
    karim = own.visitor;
    await karim.go('/brindlemere/turns');
    await karim.page.locator('section[aria-label="With you"] li button').click();
    await karim.find('Begin', 'button');
    turnId = new URL(karim.page.url()).searchParams.get('turn') ?? '';
  });
  afterAll(() => own.close());

  const guide = () => karim.json<GuideView>(`/api/brindlemere/turns/${turnId}`);

  it('goes back and on, clears an outcome, and sees all steps with counts', async () => {
    await karim.press('Begin');
    await karim.sees(/Step 1 of \d/);
    await karim.page.keyboard.press('1');
    await karim.sees(/Step 2 of \d/);
    await karim.page.keyboard.press('ArrowLeft');
    await karim.sees(/Step 1 of \d/);
    await karim.press('Clear');
    await karim.page.waitForFunction(
      () => ![...document.querySelectorAll('button')].some((button) => button.textContent?.trim() === 'Clear'),
    );
    await karim.page.keyboard.press('1');
    await karim.page.keyboard.press('a');
    await karim.sees('1 worked, 0 did not, 0 left out');
    await karim.press('Finish …');
    await karim.sees('Not all steps are told yet');
    expect(await (await karim.find('Finish', 'button')).evaluate((button) => (button as HTMLButtonElement).disabled)).toBe(true);
    await karim.press('Back to the steps');
  });

  it('folds the guide to one line and back', async () => {
    await karim.press('Fold the guide to one line');
    await karim.page.waitForFunction(
      () => !document.body.innerText.includes('You should see') && document.body.innerText.includes('It worked'),
    );
    await karim.press('Show the whole guide');
    await karim.sees('Leave it out');
  });

  it('cannot go on: a reason is asked for, the run is blocked, and the hold names it', async () => {
    await karim.press('I cannot go on');
    await karim.sees('Say above what you saw.');
    await karim.type('What did you see?', 'Millrace is down');
    await karim.press('Finish here');
    await karim.press('Finish');
    await karim.sees('Recorded as blocked.');
    expect(await guide()).toMatchObject({ outcome: 'blocked', refusal: null });
    await karim.find('Go on from step 2', 'button');
    const [attempt] = (await guide()).attempts;
    expect(attempt?.results.map(({ outcome, note }) => [outcome, note])).toContainEqual(['blocked', 'Millrace is down']);
  });

  it('tries again: the first attempt is still there', async () => {
    await karim.press('From the first step');
    await karim.sees(/Step 1 of \d/);
    expect((await guide()).attempts.map(({ number, outcome }) => [number, outcome])).toEqual([
      [2, null],
      [1, 'blocked'],
    ]);
  });

  it('leaves no error in the browser', () => expect(karim.errors).toEqual([]));
});
