import { describe, expect, it } from 'vitest';
import { readChange } from './live.ts';

describe('what is said on the channel of changes', () => {
  it('is a topic of a programme', () => {
    const programmeId = '0191a7d4-5b5e-7c3a-9d55-3f2f1a6f0001';
    expect(readChange(JSON.stringify({ programmeId, topic: 'turns' }))).toEqual({ programmeId, topic: 'turns' });
  });

  it.each(['', 'null', '{', '"turns"', '{"topic":"turns"}', '{"programmeId":1,"topic":"weather"}', undefined])(
    'else it is passed over, and stops nobody: %s',
    (payload) => expect(readChange(payload)).toBeNull(),
  );
});
