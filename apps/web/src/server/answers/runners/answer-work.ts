import type { runnerRoutes } from '@kindred-baton/contracts/runners/routes';
import type { InputOf, OutputOf } from '@kindred-baton/contracts/route';
import type { Topic } from '@kindred-baton/contracts/events';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import type { SealedWork } from '@kindred-baton/store/runners/get-work';
import { getWork } from '@kindred-baton/store/runners/get-work';
import type { Taken } from '@kindred-baton/store/runners/take-turn';
import { listReady, takeTurn } from '@kindred-baton/store/runners/take-turn';
import { getTrialWork, takeTrial } from '@kindred-baton/store/runners/trials';
import type { Call } from '../../call.ts';
import { getLog } from '../../log.ts';
import { onChange } from '../../live.ts';
import { createMemory } from '../../remember.ts';
import { openDoor } from '../doors/open-door.ts';
import { openSecret } from '../../secrets.ts';

type AskWork = (typeof runnerRoutes)['askWork'];
type WorkCall = Call<object, InputOf<AskWork>>;

/** What is ready is worked out at most once in so long for a pool; one that becomes ready meanwhile comes when these are gone, or after. */
const LASTS_MS = 3_000;
const ready = createMemory<TurnId[]>(LASTS_MS, 1_000);
/** Of what is ready so much is looked at in one transaction. */
const LOOKED_AT = 20;
const WAKE_ON: readonly Topic[] = ['turns', 'cycles', 'programme', 'trials'];

/** A free session waits here for its next turn; what somebody wants to try comes first. */
export async function answerWork(call: WorkCall): Promise<OutputOf<AskWork>> {
  const { waitSeconds, ...about } = call.input;
  const end = Date.now() + waitSeconds * 1_000;
  let [order, looksAtTurns]: [Taken['order'], boolean] = ['work', true];
  for (;;) {
    const change = waitForChange(call.actor.programmeId, end - Date.now());
    try {
      const trial = await call.perform(takeTrial, about);
      if (trial) return { order: 'work', work: openAccounts(await call.ask(getTrialWork, trial)) };
      const next = looksAtTurns ? await takeNext(call) : null;
      order = next?.order ?? order;
      if (next?.taken) return { order, work: await giveTurn(call, next.taken) };
      if (!(await change.came) || call.request.signal.aborted) return { order, work: null };
      // Each step of a trial is told too: that makes no turn ready.
      looksAtTurns = [...change.topics].some((topic) => topic !== 'trials');
    } finally {
      change.stop();
    }
  }
}

async function giveTurn(call: WorkCall, taken: NonNullable<Taken['taken']>): Promise<OutputOf<AskWork>['work']> {
  const { attemptId: attempt, turnId: turn } = taken;
  getLog().info({ attempt, turn, runner: call.actor.runnerId }, 'attempt given to a runner');
  return openAccounts(await call.ask(getWork, taken));
}

/** Goes through what is ready until one can be begun. */
async function takeNext(call: WorkCall): Promise<Taken> {
  const { waitSeconds: _, ...about } = call.input;
  const over = new Set<TurnId>();
  for (;;) {
    const open = (await listOpen(call)).filter((id) => !over.has(id)).slice(0, LOOKED_AT);
    const came = await call.perform(takeTurn, { about, ready: open, browser: `Chromium, runner on ${about.machine}` });
    forget(call.actor.personId, came.over);
    for (const id of came.over) over.add(id);
    if (came.taken || open.length < LOOKED_AT) return came;
  }
}

async function listOpen({ ask, actor }: WorkCall): Promise<readonly TurnId[]> {
  const known = ready.get(actor.personId);
  if (known && known.length > 0) return known;
  const found = await ask(listReady, undefined);
  ready.set(actor.personId, found);
  return found;
}

function forget(pool: PersonId, gone: readonly TurnId[]): void {
  const known = ready.get(pool);
  if (!known || gone.length === 0) return;
  const out = new Set(gone);
  ready.set(
    pool,
    known.filter((id) => !out.has(id)),
  );
}

interface AwaitedChange {
  /** Whether something changed before the time was over. */
  readonly came: Promise<boolean>;
  /** What changed; several may come at once. */
  readonly topics: ReadonlySet<Topic>;
  readonly stop: () => void;
}

function waitForChange(programmeId: string, forMs: number): AwaitedChange {
  const topics = new Set<Topic>();
  let stop = () => undefined as void;
  const came = new Promise<boolean>((resolve) => {
    const forget = onChange((event) => {
      if (event.programmeId !== programmeId || !WAKE_ON.includes(event.topic)) return;
      topics.add(event.topic);
      resolve(true);
    });
    const limit = setTimeout(() => resolve(false), Math.max(0, forMs));
    stop = () => {
      clearTimeout(limit);
      forget();
      resolve(false);
    };
  });
  return { came, topics, stop };
}

function openAccounts({ accounts, doors, ...work }: SealedWork): OutputOf<AskWork>['work'] {
  return {
    ...work,
    doors: doors.map(openDoor),
    accounts: accounts.flatMap(({ secret, place, ...account }) => (secret ? [{ ...account, password: openSecret(secret, place) }] : [])),
  };
}
