import { describe, expect, it } from 'vitest';
import { describeChange } from './describe-change.ts';

const A = '5222abd6-13a5-4b87-ab09-92f6f2cf5cc3';
const B = 'c283bc12-8879-4f32-a1a3-56dbfa39574b';
const nameOf = (id: string) => ({ [A]: 'Rehearsal' })[id];

describe('a change as people read it', () => {
  it('tells only what differs, by names and words', () =>
    expect(
      describeChange(
        {
          why: 'The fixers asked',
          before: {
            rules: { evidence: 'none', failure: [], laneMayRecord: false, exit: [{ kind: 'run share', least: 1 }] },
            environmentId: A,
            endsOn: '2026-12-09',
          },
          after: {
            rules: {
              evidence: 'failed steps',
              failure: ['words', 'picture'],
              laneMayRecord: true,
              exit: [{ kind: 'run share', least: 1 }],
            },
            environmentId: B,
            endsOn: '2026-12-11',
          },
        },
        nameOf,
      ),
    ).toBe(
      'evidence: none → failed steps, failure: nothing → words; picture, lane may record: no → yes, ends on: 2026-12-09 → 2026-12-11, environment: Rehearsal → nothing',
    ));

  it('tells what was, where nothing changed, and no ids', () => {
    expect(describeChange({ code: 'TQ-1', turn: B, step: 3 }, nameOf)).toBe('code: TQ-1, step: 3');
    expect(describeChange({ before: { runs: 100 }, after: { runs: 99 }, dropped: ['3 NS-S1'] }, nameOf)).toBe(
      'runs: 100 → 99, dropped: 3 NS-S1',
    );
    expect(describeChange({}, nameOf)).toBe('');
  });
});
