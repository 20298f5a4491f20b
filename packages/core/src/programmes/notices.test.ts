import { describe, expect, it } from 'vitest';
import { DEFAULT_NOTICES, NOTICES } from './notices.ts';

describe('letters that nobody has chosen', () => {
  it('come when something waits for somebody; the morning’s one only to who asks for it', () =>
    expect(NOTICES.filter((notice) => !DEFAULT_NOTICES[notice])).toEqual(['digest']));
});
