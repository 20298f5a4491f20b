import { describe, expect, it } from 'vitest';
import { hasRight, RIGHTS, ROLES } from './roles.ts';

describe('rights by role', () => {
  it.each(ROLES)('%s may look on', (role) => expect(hasRight([role], 'read')).toBe(true));

  it('are written down once, role by role', () => {
    const table = Object.fromEntries(ROLES.map((role) => [role, RIGHTS.filter((right) => hasRight([role], right)).join(', ')]));
    expect(table).toMatchObject({
      observer: 'read',
      tester: 'read, make attempts, log defects',
      owner: 'read, make attempts, log defects, move defects, sign off',
      author: 'read, edit map, edit tests, agree tests, edit scenarios, make attempts, log defects, move defects',
      lead: RIGHTS.join(', '),
    });
  });

  it('add up over several roles', () => expect(hasRight(['observer', 'tester'], 'make attempts')).toBe(true));
});
