import type { RouteName } from '@kindred-baton/contracts/routes';
import { ROUTES } from '@kindred-baton/contracts/routes';
import type { OutTable } from '@kindred-baton/formats/tables/write-tables';
import { writeXlsx } from '@kindred-baton/formats/tables/write-tables';
import type { Actor } from '@kindred-baton/store/actor';
import { staffCycle } from '@kindred-baton/store/cycles/staff-cycle';
import { countToFix } from '@kindred-baton/store/scenarios/list-scenarios';
import { bind } from '../bind.ts';
import type { Call } from '../call.ts';
import { IMPORTS } from '../answers/imports/imports.ts';
import type { Upload } from '../read-upload.ts';
import { askForStep, tryDoor } from './ask-door.ts';
import { READERS } from './readers.ts';

/** In whose name, and for which route, a thread asks the store; it has connections of its own. */
export interface AsideCaller {
  readonly actor: Actor;
  readonly route: RouteName;
}

const bindCaller = ({ actor, route }: AsideCaller): Pick<Call, 'ask' | 'perform'> => bind(actor, ROUTES[route]);
const runImport = (
  caller: AsideCaller & { readonly route: keyof typeof IMPORTS },
  upload: Upload,
  sayStores?: () => void,
): Promise<unknown> => {
  const { ask, perform } = bindCaller(caller);
  const store: typeof perform = (operation, input) => {
    sayStores?.();
    return perform(operation, input);
  };
  return IMPORTS[caller.route]({ ask, perform: store }, upload);
};

/** Everything that is done in a thread of its own; each is given, last, a way to say that it has read and stores now. Adding one: a line here. */
export const TASKS = {
  ...READERS,
  import: runImport,
  'staff cycle': (caller: AsideCaller, input: Parameters<typeof staffCycle.run>[1]) => bindCaller(caller).perform(staffCycle, input),
  'count to fix': (caller: AsideCaller, input: Parameters<typeof countToFix.read>[1]) => bindCaller(caller).ask(countToFix, input),
  'ask door': askForStep,
  'try door': tryDoor,
  'write workbook': (tables: readonly OutTable[]) => writeXlsx(tables),
} as const;

export type Tasks = typeof TASKS;
