import { setPriority } from 'node:os';
import { isMainThread } from 'node:worker_threads';
import type { RouteName } from '@kindred-baton/contracts/routes';
import { ROUTES } from '@kindred-baton/contracts/routes';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { writeXlsx } from '@kindred-baton/formats/tables/write-tables';
import type { Actor } from '@kindred-baton/store/actor';
import { staffCycle } from '@kindred-baton/store/cycles/staff-cycle';
import type { Query } from '@kindred-baton/store/operation';
import { ask } from '@kindred-baton/store/operation';
import { askHere, bind } from '../bind.ts';
import type { Call } from '../call.ts';
import { IMPORTS } from '../answers/imports/imports.ts';
import { getStore } from '../store.ts';
import { writeAnswer } from '../write-answer.ts';
import type { Upload } from '../read-upload.ts';
import { askForStep, tryDoor } from './ask-door.ts';
import type { HeavyRead } from './heavy-reads.ts';
import { HEAVY_READS, READ_MS } from './heavy-reads.ts';
import { READERS } from './readers.ts';

/** What a thread may say and hear while it works. */
export interface WhileAside {
  /** It has read, and stores now. */
  readonly sayStores: () => void;
  /** Nobody wants it any more. */
  readonly leave: AbortSignal;
}

/** In whose name, and for which route, a thread asks the store; it has connections of its own. */
export interface AsideCaller {
  readonly actor: Actor;
  readonly route: RouteName;
}

const bindCaller = ({ actor, route }: AsideCaller): Pick<Call, 'ask' | 'perform'> => bind(actor, ROUTES[route], askHere(actor));
const runImport = (
  caller: AsideCaller & { readonly route: keyof typeof IMPORTS },
  upload: Upload,
  meanwhile?: WhileAside,
): Promise<unknown> => {
  const { ask, perform } = bindCaller(caller);
  const store: typeof perform = (operation, input) => {
    meanwhile?.sayStores();
    return perform(operation, input);
  };
  return IMPORTS[caller.route]({ ask, perform: store }, upload);
};

/** What a heavy read comes to: as its route gives it out, checked and written, or as it is. */
export type ReadAnswer = { readonly text: string } | { readonly value: unknown };

async function runRead(actor: Actor, name: HeavyRead, input: unknown, meanwhile?: WhileAside): Promise<ReadAnswer> {
  giveWay();
  const { query, route }: (typeof HEAVY_READS)[HeavyRead] = HEAVY_READS[name];
  const bounds = meanwhile && { mostMs: READ_MS, leave: meanwhile.leave };
  const value = await ask(getStore(), actor, query as Query<unknown, unknown>, input, bounds);
  return route === null ? { value } : { text: writeAnswer(ROUTES[route], value) };
}

const BEHIND = 10;
let givesWay = false;

/** Where the machine has more to do than it can, what is recorded goes first. On Linux a thread has a priority of its own; elsewhere it would be everybody's. */
function giveWay(): void {
  if (givesWay || isMainThread || process.platform !== 'linux') return;
  givesWay = true;
  setPriority(BEHIND);
}

/** Everything that is done in a thread of its own; each is given, last, what it may say and hear meanwhile. Adding one: a line here. */
export const TASKS = {
  ...READERS,
  import: runImport,
  'staff cycle': (caller: AsideCaller, input: Parameters<typeof staffCycle.run>[1]) => bindCaller(caller).perform(staffCycle, input),
  'ask door': askForStep,
  'try door': tryDoor,
  read: runRead,
  strip: runRead,
  'write workbook': (tables: readonly OutTable[]) => writeXlsx(tables),
} as const;

export type Tasks = typeof TASKS;
