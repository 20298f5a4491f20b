/** A way into an environment of an application beside its screens: its interface over HTTP, or its database, which is only read. */
export const DOOR_KINDS = ['interface', 'database'] as const;
export type DoorKind = (typeof DOOR_KINDS)[number];

/** How an interface is told who asks: not at all, by a bearer token (RFC 6750), by user and password (RFC 7617), or in a field of the header. */
export const DOOR_SIGN_INS = ['none', 'bearer', 'basic', 'header'] as const;
export type DoorSignIn = (typeof DOOR_SIGN_INS)[number];

/** The longest that a door may take for one answer, and the most that is read of it. */
export const DOOR_LIMITS = { milliseconds: 10_000, bytes: 1_000_000, rows: 1_000 } as const;
