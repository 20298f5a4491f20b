import type { PersonId } from '@kindred-baton/core/ids';
import type { Actor } from '@kindred-baton/store/actor';
import { requireRight } from '@kindred-baton/store/actor';
import type { Query } from '@kindred-baton/store/operation';
import { askHere } from '../bind.ts';
import type { Asker } from '../call.ts';
import { doAsideUntil } from './do-aside.ts';
import type { HeavyRead } from './heavy-reads.ts';
import { HEAVY_READS } from './heavy-reads.ts';
import type { ReadAnswer } from './tasks.ts';
import { keepWritten } from '../write-answer.ts';
import { createSharing } from './share-reads.ts';

const names = new Map(Object.entries(HEAVY_READS).map(([name, { query }]) => [query as unknown, name as HeavyRead]));
const sharing = createSharing();

/** Who asks for what is everybody's: nobody in particular. */
const NOBODY = '00000000-0000-0000-0000-000000000000' as PersonId;

/** Asks the store for somebody: what is heavy in a thread of its own, once for all who ask the same; anything else here. */
export function askAside(actor: Actor, leave?: AbortSignal): Asker {
  const here = askHere(actor);
  return (query, input) => {
    const name = names.get(query);
    return name === undefined ? here(query, input) : readAside(actor, name, { query, input, leave });
  };
}

interface Asked<Input, Output> {
  readonly query: Query<Input, Output>;
  readonly input: Input;
  readonly leave: AbortSignal | undefined;
}

async function readAside<Input, Output>(actor: Actor, name: HeavyRead, { query, input, leave }: Asked<Input, Output>): Promise<Output> {
  requireRight(actor, query.right);
  const asker = HEAVY_READS[name].of === 'person' ? actor : { ...actor, personId: NOBODY };
  const task = name === 'getStrip' ? 'strip' : 'read';
  const key = JSON.stringify([name, input ?? null, asker]);
  return sharing.share(key, async (gone) => open<Output>(await doAsideUntil(gone, task, [asker, name, input])), leave);
}

/** What several readers share is opened once; written as it was, it is passed on as it came. */
function open<Output>(answer: ReadAnswer): Output {
  if (!('text' in answer)) return answer.value as Output;
  const value = JSON.parse(answer.text) as Output;
  keepWritten(value, answer.text);
  return value;
}
