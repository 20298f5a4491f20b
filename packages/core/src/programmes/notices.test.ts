import { describe, expect, it } from 'vitest';
import { DEFAULT_NOTICES, NOTICES } from './notices.ts';

describe('letters that nobody has chosen', () => {
  it('come when something waits for somebody; those of the morning only to who asks for them', () =>
    expect(NOTICES.filter((notice) => !DEFAULT_NOTICES[notice])).toEqual(['digest', 'news']));
});
