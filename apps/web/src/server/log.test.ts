import { describe, expect, it } from 'vitest';
import { toLogged } from './log.ts';

describe('what is noted of an error', () => {
  it('is its words and those of what caused it, and nothing that hangs on it', () => {
    const cause = Object.assign(new Error('terminating connection'), { code: '57P01', client: { password: 'secret' } });
    const logged = JSON.stringify(toLogged(new Error('Failed query', { cause })));
    expect(JSON.parse(logged)).toMatchObject({
      name: 'Error',
      message: 'Failed query',
      cause: { code: '57P01', message: 'terminating connection' },
    });
    expect(logged).not.toContain('secret');
    expect(logged).toContain('log.test.ts');
  });

  it('is what was thrown, where that is no error', () => {
    expect(toLogged('gone')).toBe('gone');
  });
});
