import { randomUUID } from 'node:crypto';
import type { Orders, Work } from '@kindred-baton/contracts/runners/runner';
import type { AttemptId } from '@kindred-baton/core/ids';
import { HEARTBEAT_MS } from '@kindred-baton/core/runners/runner';
import type { Logger } from 'pino';
import type { Session } from '../browser/open-session.ts';
import { openSession } from '../browser/open-session.ts';
import { createReach } from '../browser/reach.ts';
import type { BrowserHost } from '../browser/start-browser.ts';
import { startBrowser } from '../browser/start-browser.ts';
import type { OnStep } from '../drive/do-test.ts';
import { doTest } from '../drive/do-test.ts';
import type { CallServer } from './call-server.ts';
import { Refused } from './call-server.ts';
import type { Outbox, OutboxItem } from './outbox.ts';
import { openOutbox } from './outbox.ts';
import { listSecrets, maskSecrets, toGivenTest } from './to-given-test.ts';

export interface RunnerOptions {
  readonly call: CallServer;
  readonly folder: string;
  readonly instance: string;
  readonly machine: string;
  readonly sessions: number;
  readonly chromium: string;
  readonly patienceMs: number;
  readonly log: Logger;
}

export interface Runner {
  /** Rejects when the server will not have this runner: a token withdrawn, or used elsewhere. */
  readonly ended: Promise<void>;
  /** Leaves what it does; what was recorded is sent. */
  readonly stop: () => Promise<void>;
}

/** An attempt that is done now. */
interface Doing {
  step: number;
  isStopped: boolean;
  readonly session: Session | undefined;
}

const WAIT_SECONDS = 25;
const PAUSE_MS = 1_000;
const SENT_WITHIN_MS = 5_000;
const WITHDRAWN = 401;
const TAKEN = 409;

/** Asks for turns and does them, as many at a time as it has sessions, until it is stopped. */
export function runTurns(options: RunnerOptions): Runner {
  const { call, log, instance, machine, sessions } = options;
  const about = { instance, machine, sessions };
  const doing = new Map<AttemptId, Doing & { session: Session | undefined }>();
  const stopping = new AbortController();
  let orders: Orders = { order: 'work', stop: [] };
  let host: Promise<BrowserHost> | undefined;
  let giveUp: (error: Error) => void = () => undefined;
  const ended = new Promise<void>((_, reject) => (giveUp = reject));
  // Whoever stops it need not hear of it too.
  ended.catch(() => undefined);

  const endDoing = (attempt: AttemptId) => {
    const one = doing.get(attempt);
    if (!one || one.isStopped) return;
    one.isStopped = true;
    log.info({ attempt }, 'stopped: it is not this runner’s any more');
    // What is under way in the browser ends with its session.
    one.session?.close().catch(() => undefined);
  };
  const outbox: Outbox = openOutbox({
    folder: options.folder,
    send: (attempt, item) => sendItem(call, attempt, item),
    onRefused: (attempt, error) => {
      log.warn({ attempt, words: error.message }, 'the server takes no more of this attempt');
      if (error.status === WITHDRAWN) giveUp(error);
      endDoing(attempt);
    },
    onTrouble: (error) => log.warn({ words: String(error) }, 'not sent yet; trying again'),
  });

  const hear = async () => {
    const working = [
      ...[...doing].flatMap(([attempt, { step, isStopped }]) => (isStopped ? [] : [{ attempt, step }])),
      // Done, and its end is on its way.
      ...outbox.list().flatMap(({ attempt, isFinishing }) => (isFinishing && !doing.has(attempt) ? [{ attempt, step: 0 }] : [])),
    ];
    const problem = await outbox.checkDisk();
    orders = await call('hearRunner', { ...about, working, problem });
    for (const attempt of orders.stop) endDoing(attempt);
    if (orders.order === 'stop') for (const attempt of doing.keys()) endDoing(attempt);
  };
  const keepHeard = async () => {
    while (!stopping.signal.aborted) {
      await hear().catch(fail);
      await rest(HEARTBEAT_MS, stopping.signal);
    }
  };
  /** A refusal that concerns the runner as a whole ends it; whatever else is tried again. */
  const fail = (error: unknown) => {
    if (stopping.signal.aborted) return;
    log.warn({ words: String(error) }, 'the server could not be asked');
    if (error instanceof Refused && (error.status === WITHDRAWN || error.status === TAKEN)) giveUp(error);
  };

  const getHost = async (): Promise<BrowserHost> => {
    const before = host;
    const known = before && (await before.catch(() => undefined));
    if (known?.browser.connected) return known;
    // Another session may have started one meanwhile.
    if (host === before) host = replaceBrowser(known, options.chromium);
    return host!;
  };
  const workOn = async (work: Work) => {
    const { attempt } = work;
    const secrets = listSecrets(work);
    const own: Doing & { session: Session | undefined } = { step: work.fromStep, isStopped: false, session: undefined };
    doing.set(attempt, own);
    log.info({ attempt, test: work.test, turn: work.turn, from: work.fromStep }, 'begun');
    try {
      own.session = await openSession(await getHost(), { reach: createReach(work.applications.map(({ address }) => address)) });
      const report = await doTest(own.session, toGivenTest(work, options.patienceMs), {
        onStep: createStepWriter(outbox, attempt, secrets),
        mayGoOn: async (index) => {
          own.step = index;
          hear().catch(fail);
          while (orders.order === 'pause' && !own.isStopped && !stopping.signal.aborted) await rest(PAUSE_MS, stopping.signal);
          return !own.isStopped && !stopping.signal.aborted;
        },
      });
      if (report.outcome !== 'stopped') await outbox.put(attempt, { kind: 'finish' });
      log.info({ attempt, outcome: report.outcome }, 'ended');
    } catch (error) {
      if (own.isStopped || stopping.signal.aborted) return;
      // A fault of the runner itself: the attempt is given back, and says so.
      log.error({ attempt, words: maskSecrets(String(error), secrets) }, 'the runner stumbled');
      const word = { outcome: 'blocked' as const, note: maskSecrets(`The runner stumbled over this step: ${readWords(error)}`, secrets) };
      await outbox.put(attempt, {
        kind: 'step',
        stepIndex: own.step,
        word: { ...word, wordId: randomUUID(), at: new Date().toISOString() },
      });
      await outbox.put(attempt, { kind: 'finish' });
    } finally {
      doing.delete(attempt);
      await own.session?.close().catch(() => undefined);
    }
  };

  let isAsking = Promise.resolve();
  /** One asks at a time; the others wait for their turn to ask. */
  const askNext = (): Promise<Work | null> => {
    const asked = isAsking.then(async () => {
      if (stopping.signal.aborted || orders.order !== 'work' || (await outbox.checkDisk()) !== '') return null;
      const answer = await call(
        'askWork',
        { ...about, waitSeconds: WAIT_SECONDS },
        { signal: stopping.signal, limitMs: (WAIT_SECONDS + 10) * 1_000 },
      );
      orders = { ...orders, order: answer.order };
      return answer.work;
    });
    isAsking = asked.then(
      () => undefined,
      () => undefined,
    );
    return asked;
  };
  const keepWorking = async () => {
    while (!stopping.signal.aborted) {
      const work = await askNext().catch(fail);
      if (work) await workOn(work);
      else await rest(PAUSE_MS, stopping.signal);
    }
  };
  const loops = begin();
  async function begin(): Promise<void> {
    // What an earlier process left is sent before the server hears that it is lost.
    await outbox.whenEmpty(SENT_WITHIN_MS);
    await hear().catch(fail);
    await Promise.all([keepHeard(), ...Array.from({ length: sessions }, keepWorking)]);
  }
  return {
    ended,
    stop: async () => {
      stopping.abort();
      await Promise.all([...doing.values()].map(({ session }) => session?.close().catch(() => undefined)));
      await loops.catch(() => undefined);
      await outbox.whenEmpty(SENT_WITHIN_MS);
      outbox.stop();
      await call('partRunner', { instance }).catch(() => undefined);
      await (await host?.catch(() => undefined))?.close();
    },
  };
}

async function replaceBrowser(gone: BrowserHost | undefined, chromium: string): Promise<BrowserHost> {
  await gone?.close().catch(() => undefined);
  return startBrowser(chromium);
}

const readWords = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** What was looked for and what is there, as a sentence. */
export function describeFailure(expected: string, actual: string): string {
  if (actual === '') return `Looked for “${expected}”; nothing stands there.`;
  return actual.endsWith('.') ? actual : `Looked for “${expected}”; it shows “${actual}”.`;
}

function createStepWriter(outbox: Outbox, attempt: AttemptId, secrets: readonly string[]): OnStep {
  const clean = (text: string) => maskSecrets(text, secrets).slice(0, 10_000);
  return ({ index, outcome, expected, actual, left, note, kept, tookMs }, picture) => {
    const [value] = Object.values(kept);
    const seen = { expected: clean(expected), actual: clean(actual), unlooked: clean(left), tookMs };
    const words = clean(note !== '' || outcome !== 'failed' ? note : describeFailure(expected, actual));
    const item: OutboxItem = {
      ...{ kind: 'step', stepIndex: index },
      word: {
        wordId: randomUUID(),
        outcome,
        note: words,
        at: new Date().toISOString(),
        seen,
        ...(value === undefined ? {} : { kept: value }),
      },
    };
    // Neither fails: what the disk does not take is held in memory.
    if (picture)
      void outbox.put(attempt, { kind: 'picture', stepIndex: index, id: randomUUID(), jpeg: Buffer.from(picture).toString('base64') });
    void outbox.put(attempt, item);
  };
}

async function sendItem(call: CallServer, attempt: AttemptId, item: OutboxItem): Promise<void> {
  if (item.kind === 'step') await call('recordStep', item.word, { params: { attempt, step: String(item.stepIndex) } });
  if (item.kind === 'finish') await call('finishAttempt', undefined, { params: { attempt } });
  if (item.kind === 'picture') {
    const form = new FormData();
    form.set('id', item.id);
    form.set('stepIndex', String(item.stepIndex));
    form.set('file', new Blob([Buffer.from(item.jpeg, 'base64')], { type: 'image/jpeg' }), `step ${item.stepIndex + 1}.jpg`);
    await call('keepEvidence', undefined, { params: { attempt }, form });
  }
}

/** Ends early when it is stopped. */
function rest(ms: number, signal: AbortSignal): Promise<void> {
  if (signal.aborted) return Promise.resolve();
  return new Promise((resolve) => {
    const done = () => {
      clearTimeout(timer);
      signal.removeEventListener('abort', done);
      resolve();
    };
    const timer = setTimeout(done, ms);
    signal.addEventListener('abort', done);
  });
}
