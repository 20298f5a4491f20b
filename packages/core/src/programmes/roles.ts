/** Roles in a programme; a person may have several. */
export const ROLES = ['administrator', 'lead', 'author', 'tester', 'owner', 'observer'] as const;
export type Role = (typeof ROLES)[number];

/** What can be done in a programme. Reading is open to every member. */
export const RIGHTS = [
  'read',
  'edit map',
  'edit tests',
  'agree tests',
  'edit scenarios',
  'run cycles',
  'make attempts',
  'log defects',
  'move defects',
  'sign off',
  'set up the programme',
  'read the history',
] as const;
export type Right = (typeof RIGHTS)[number];

const RIGHTS_OF: Readonly<Record<Role, readonly Right[]>> = {
  administrator: RIGHTS,
  lead: RIGHTS,
  author: ['read', 'edit map', 'edit tests', 'agree tests', 'edit scenarios', 'make attempts', 'log defects'],
  tester: ['read', 'make attempts', 'log defects'],
  owner: ['read', 'make attempts', 'log defects', 'move defects', 'sign off'],
  observer: ['read'],
};

export function hasRight(roles: readonly Role[], right: Right): boolean {
  return roles.some((role) => RIGHTS_OF[role].includes(right));
}
