/** Roles in a programme; a person may have several. */
export const ROLES = ['administrator', 'lead', 'author', 'tester', 'owner', 'observer'] as const;
export type Role = (typeof ROLES)[number];

/**
 * What can be done in a programme, and by whom besides those who lead or administer it: they may do everything. Reading is open to every member. A row
 * here is all that another right takes.
 */
const RIGHT_FACTS = {
  read: ['author', 'tester', 'owner', 'observer'],
  'edit map': ['author'],
  'edit tests': ['author'],
  'agree tests': ['author'],
  'edit scenarios': ['author'],
  'run cycles': [],
  'make attempts': ['author', 'tester', 'owner'],
  'log defects': ['author', 'tester', 'owner'],
  'move defects': ['author', 'owner'],
  'sign off': ['owner'],
  'set up the programme': [],
  'read the history': [],
} as const satisfies Readonly<Record<string, readonly Role[]>>;
export type Right = keyof typeof RIGHT_FACTS;
export const RIGHTS = Object.keys(RIGHT_FACTS) as [Right, ...Right[]];

const LEADING: readonly Role[] = ['administrator', 'lead'];

export function hasRight(roles: readonly Role[], right: Right): boolean {
  const holders: readonly Role[] = RIGHT_FACTS[right];
  return roles.some((role) => LEADING.includes(role) || holders.includes(role));
}
