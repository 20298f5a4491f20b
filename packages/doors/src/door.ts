import type { DoorKind, DoorSignIn } from '@kindred-baton/core/doors/door';

/** A door with what opens it. */
export interface OpenDoor {
  readonly name: string;
  readonly kind: DoorKind;
  /** Of an interface where its paths begin, of a database `postgresql://host:port/database`. */
  readonly address: string;
  readonly signIn: DoorSignIn;
  /** The user, or the field of the header that the secret stands in. */
  readonly user: string;
  readonly secret: string;
}

/** A question that got no answer, with the reason as a sentence. */
export class NoAnswer extends Error {}
