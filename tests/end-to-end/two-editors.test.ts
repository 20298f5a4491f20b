import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Visitor } from '../support/browser.ts';
import type { OwnServer } from '../support/own-server.ts';
import { openOwnServer } from '../support/own-server.ts';

describe('two editors of one test', () => {
  let own: OwnServer;
  let edda: Visitor;
  let ravi: Visitor;
  beforeAll(async () => {
    own = await openOwnServer('Edda Quill');
    edda = own.visitor;
    ravi = await own.openAs('Ravi Thorne');
  });
  afterAll(() => own.close());

  it('the second sees both versions side by side, and nothing is lost', async () => {
    for (const author of [edda, ravi]) await author.go('/brindlemere/tests/BIL-05');
    await edda.type('Step 1: you should see', 'Edda was here');
    await edda.press('Save as a new draft');
    await edda.sees('Version 2 is saved as a draft.');
    await ravi.type('Step 1: you should see', 'Ravi was here');
    await ravi.press('Save as a new draft');
    await ravi.sees('Edda Quill saved this test meanwhile');
    await ravi.sees('Edda was here');
    await ravi.sees('Ravi was here');
    await ravi.press('Keep mine; I save over theirs');
    await ravi.sees('Draft saved');
    const { version } = await edda.json<{ version: { number: number; steps: { expect?: string }[] } }>('/api/brindlemere/tests/BIL-05');
    expect([version.number, version.steps[0]?.expect]).toEqual([2, 'Ravi was here']);
  });
});
