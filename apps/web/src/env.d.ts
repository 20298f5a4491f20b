/// <reference types="astro/client" />

declare namespace App {
  interface Locals {
    /** The signed-in person; undefined on public pages and before signing in. */
    personId?: import('@kindred-baton/core/ids').PersonId;
    requestId: string;
  }
}
