/// <reference types="astro/client" />

type PersonId = import('@kindred-baton/core/ids').PersonId; // eslint-disable-line @typescript-eslint/consistent-type-imports -- an import statement would make this a module
type Actor = import('@kindred-baton/store/actor').Actor; // eslint-disable-line @typescript-eslint/consistent-type-imports -- as above

declare namespace App {
  interface Locals {
    /** The signed-in person; undefined on public pages and before signing in. */
    personId?: PersonId;
    /** The pool in whose name a machine asks. */
    runner?: Actor;
    /** The owner of the address for data that is read. */
    reader?: Actor;
    requestId: string;
  }
}
