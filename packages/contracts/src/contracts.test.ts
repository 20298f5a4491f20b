import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import { describe, expect, it } from 'vitest';
import { codeSchema, daySchema, idSchema } from './common.ts';
import { createCycleSchema } from './cycles/cycle.ts';
import { logDefectSchema, moveDefectSchema } from './defects/defect.ts';
import { ERROR_STATUS } from './errors.ts';
import { changeProgrammeSchema } from './programmes/programme.ts';
import { progressQuerySchema } from './progress/progress.ts';
import { scenarioEditSchema } from './scenarios/scenario.ts';
import { saveTestSchema } from './tests/test.ts';
import { turnListQuerySchema } from './turns/turn.ts';

const ID = '3f1f2c3e-5a1b-4c2d-9e8f-0a1b2c3d4e5f';
const messagesOf = (result: { success: boolean; error?: { issues: readonly { path: PropertyKey[]; message: string }[] } }) =>
  result.error?.issues.map(({ path, message }) => `${path.join('.')}: ${message}`) ?? [];

describe('what comes in is checked', () => {
  it.each(['NS-2.1', 'BIL_04', 'x', 'A'.repeat(40)])('the code %s is one', (code) => expect(codeSchema.safeParse(code).success).toBe(true));
  it.each(['', 'a b', '../etc', 'A'.repeat(41), '<b>', '.x'])('the code “%s” is none', (code) =>
    expect(codeSchema.safeParse(code).success).toBe(false),
  );

  it('days exist, ids are UUIDs', () => {
    expect([
      daySchema.safeParse('2026-02-29').success,
      daySchema.safeParse('2028-02-29').success,
      idSchema<'turn'>().safeParse('1').success,
      idSchema<'turn'>().safeParse(ID).success,
    ]).toEqual([false, true, false, true]);
  });

  it('an address may come without https://, and is one of the web', () => {
    const hookOf = (defectHook: string) => changeProgrammeSchema.safeParse({ defectHook }).data?.defectHook;
    expect(['', ' tracker.example/in ', 'http://tracker.example', 'localhost:8080/x'].map(hookOf)).toEqual([
      '',
      'https://tracker.example/in',
      'http://tracker.example',
      'https://localhost:8080/x',
    ]);
    expect(['javascript:alert(1)', 'ftp://tracker.example', 'two words'].map(hookOf)).toEqual([undefined, undefined, undefined]);
  });

  it('a cycle does not end before it starts', () => {
    const cycle = {
      code: 'C',
      name: 'C',
      purpose: 'smoke',
      environmentId: ID,
      startsOn: '2026-11-06',
      endsOn: '2026-11-02',
      scope: [{ scenarioId: ID, rowIds: [] }],
    };
    expect(messagesOf(createCycleSchema.safeParse(cycle))).toEqual(['endsOn: The end is before the start.']);
  });

  it('an open leg says what it is to test', () => {
    const leg = createLeg({ id: ID });
    const add = (more: object) => scenarioEditSchema.safeParse({ kind: 'add leg', leg: { ...leg, ...more }, before: null });
    expect(messagesOf(add({}))).toEqual(['leg.title: Say in words what this open leg is to test.']);
    expect(messagesOf(add({ title: ' ' }))).toEqual(['leg.title: Say in words what this leg is to test.']);
    expect(add({ test: 'BIL-01' }).success).toBe(true);
  });

  it('a test has no two needs of one name', () => {
    const needs = [
      { name: 'Band', type: 'text' },
      { name: 'BAND ', type: 'text' },
    ];
    expect(
      messagesOf(
        saveTestSchema.safeParse({ base: { number: 1, revision: 1 }, name: 'T', minutes: 1, steps: [], needs, gives: [], rows: [] }),
      ),
    ).toEqual(['needs: Two needs have the same name.']);
  });

  it('a declined defect has a reason, a logged one says what was seen', () => {
    expect(messagesOf(moveDefectSchema.safeParse({ from: 'new', to: 'declined', reason: ' ' }))).toEqual([
      'reason: Say why it is declined.',
    ]);
    const defect = {
      id: ID,
      attemptId: ID,
      stepIndex: 0,
      title: 'x',
      kind: 'function',
      severity: 'slows the business',
      priority: 'high',
      expected: '',
      seen: ' ',
    };
    expect(messagesOf(logDefectSchema.safeParse(defect))).toEqual(['title: Say in a few words what is wrong.', 'seen: Say what you saw.']);
  });

  it('a list of turns takes only the filters that it names', () => {
    expect(turnListQuerySchema.parse({ cycle: 'ACC-2', status: 'failed,blocked', run: '3' })).toMatchObject({
      status: ['failed', 'blocked'],
      run: 3,
      page: 1,
    });
    expect(turnListQuerySchema.safeParse({ cycle: 'ACC-2', hold: "defect:'; drop table" }).success).toBe(false);
    expect(progressQuerySchema.safeParse({ rows: 'colour' }).success).toBe(false);
  });
});

it('every error code has a status of HTTP', () => {
  expect(Object.values(ERROR_STATUS).every((status) => status >= 400 && status < 600)).toBe(true);
});
