import type { Work } from '@kindred-baton/contracts/runners/runner';
import type { AttemptId } from '@kindred-baton/core/ids';
import type { RunnerOrder } from '@kindred-baton/core/runners/runner';
import { HEARTBEAT_MS } from '@kindred-baton/core/runners/runner';
import type { Logger } from 'pino';
import type { Session } from '../browser/open-session.ts';
import { openSession } from '../browser/open-session.ts';
import { createReach } from '../browser/reach.ts';
import type { BrowserHost } from '../browser/start-browser.ts';
import { endLeftBrowsers, startBrowser } from '../browser/start-browser.ts';
import { doTest } from '../drive/do-test.ts';
import { PLAIN } from '../drive/report.ts';
import type { CallServer } from './call-server.ts';
import { Refused } from './call-server.ts';
import type { Outbox, OutboxItem } from './outbox.ts';
import { openOutbox } from './outbox.ts';
import type { Window, Windows } from '../window/open-windows.ts';
import { listSecrets, maskSecrets, toGivenTest } from './to-given-test.ts';
import type { Voice } from './voice.ts';
import { openOutboxVoice, openTrialVoice } from './voice.ts';

export interface RunnerOptions {
  readonly call: CallServer;
  readonly folder: string;
  readonly instance: string;
  readonly machine: string;
  readonly sessions: number;
  readonly chromium: string;
  readonly patienceMs: number;
  readonly log: Logger;
  /** Where what it does can be looked at. */
  readonly windows: Windows;
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
  session: Session | undefined;
}

const WAIT_SECONDS = 25;
const PAUSE_MS = 1_000;
const SENT_WITHIN_MS = 5_000;
const WITHDRAWN = 401;
const TAKEN = 409;

/** Asks for turns and does them, as many at a time as it has sessions, until it is stopped. */
export function runTurns(options: RunnerOptions): Runner {
  const runner = new TurnRunner(options);
  const loops = runner.run();
  return { ended: runner.ended, stop: () => runner.stop(loops) };
}

class TurnRunner {
  readonly ended: Promise<void>;
  readonly #options: RunnerOptions;
  readonly #doing = new Map<AttemptId, Doing>();
  readonly #stopping = new AbortController();
  readonly #outbox: Outbox;
  #order: RunnerOrder = 'work';
  #host: Promise<BrowserHost> | undefined;
  #asking: Promise<unknown> = Promise.resolve();
  #giveUp: (error: Error) => void = () => undefined;

  constructor(options: RunnerOptions) {
    this.#options = options;
    this.ended = new Promise<void>((_, reject) => (this.#giveUp = reject));
    // Whoever stops it need not hear of it too.
    this.ended.catch(() => undefined);
    this.#outbox = openOutbox({
      folder: options.folder,
      send: (attempt, item) => sendItem(options.call, attempt, item),
      onRefused: (attempt, error) => this.#leave(attempt, error),
      onTrouble: (error) => options.log.warn({ words: String(error) }, 'not sent yet; trying again'),
    });
  }

  async run(): Promise<void> {
    endLeftBrowsers(this.#options.folder);
    // What an earlier process left is sent before the server hears that it is lost.
    await this.#outbox.whenEmpty(SENT_WITHIN_MS);
    await this.#hear();
    await Promise.all([this.#keepHeard(), ...Array.from({ length: this.#options.sessions }, () => this.#keepWorking())]);
  }

  async stop(loops: Promise<void>): Promise<void> {
    this.#stopping.abort();
    await Promise.all([...this.#doing.values()].map(({ session }) => session?.close().catch(() => undefined)));
    await loops.catch(() => undefined);
    await this.#outbox.whenEmpty(SENT_WITHIN_MS);
    this.#outbox.stop();
    const { call, instance } = this.#options;
    this.#options.windows.stop();
    await call('partRunner', { instance }).catch(() => undefined);
    await (await this.#host?.catch(() => undefined))?.close();
  }

  get #about() {
    const { instance, machine, sessions } = this.#options;
    return { instance, machine, sessions };
  }

  /** Says that it is there and what it does, and does what it is told. */
  async #hear(): Promise<void> {
    try {
      const finishing = this.#outbox.list().filter(({ attempt, isFinishing }) => isFinishing && !this.#doing.has(attempt));
      const working = [
        ...[...this.#doing].flatMap(([attempt, { step, isStopped }]) => (isStopped ? [] : [{ attempt, step }])),
        // Done, and its end is on its way.
        ...finishing.map(({ attempt }) => ({ attempt, step: 0 })),
      ];
      const problem = await this.#outbox.checkDisk();
      const { order, stop } = await this.#options.call('hearRunner', { ...this.#about, working, problem });
      this.#order = order;
      for (const attempt of order === 'stop' ? this.#doing.keys() : stop) this.#end(attempt);
    } catch (error) {
      this.#fail(error);
    }
  }

  async #keepHeard(): Promise<void> {
    while (!this.#stopping.signal.aborted) {
      await this.#hear();
      await rest(HEARTBEAT_MS, this.#stopping.signal);
    }
  }

  async #keepWorking(): Promise<void> {
    while (!this.#stopping.signal.aborted) {
      const work = await this.#askNext();
      if (work) await this.#workOn(work);
      else await rest(PAUSE_MS, this.#stopping.signal);
    }
  }

  /** One session asks at a time; the others wait for their turn to ask. */
  #askNext(): Promise<Work | null> {
    const asked = this.#asking.then(() => this.#ask());
    this.#asking = asked;
    return asked;
  }

  async #ask(): Promise<Work | null> {
    try {
      const { signal } = this.#stopping;
      if (signal.aborted || this.#order !== 'work' || (await this.#outbox.checkDisk()) !== '') return null;
      const limitMs = (WAIT_SECONDS + 10) * 1_000;
      const answer = await this.#options.call('askWork', { ...this.#about, waitSeconds: WAIT_SECONDS }, { signal, limitMs });
      this.#order = answer.order;
      return answer.work;
    } catch (error) {
      this.#fail(error);
      return null;
    }
  }

  /** A refusal that concerns the runner as a whole ends it; whatever else is tried again. */
  #fail(error: unknown): void {
    if (this.#stopping.signal.aborted) return;
    this.#options.log.warn({ words: String(error) }, 'the server could not be asked');
    if (error instanceof Refused && (error.status === WITHDRAWN || error.status === TAKEN)) this.#giveUp(error);
  }

  #leave(attempt: AttemptId, error: Refused): void {
    this.#options.log.warn({ attempt, words: error.message }, 'the server takes no more of this attempt');
    if (error.status === WITHDRAWN) this.#giveUp(error);
    this.#end(attempt);
  }

  #end(attempt: AttemptId): void {
    const one = this.#doing.get(attempt);
    if (!one || one.isStopped) return;
    one.isStopped = true;
    this.#options.log.info({ attempt }, 'stopped: it is not this runner’s any more');
    // What is under way in the browser ends with its session.
    one.session?.close().catch(() => undefined);
  }

  async #getHost(): Promise<BrowserHost> {
    const before = this.#host;
    const known = before && (await before.catch(() => undefined));
    if (known?.browser.connected) return known;
    // Another session may have started one meanwhile.
    if (this.#host === before) this.#host = replaceBrowser(known, this.#options);
    return this.#host!;
  }

  async #workOn(work: Work): Promise<void> {
    const { attempt } = work;
    const own: Doing = { step: work.fromStep, isStopped: false, session: undefined };
    this.#doing.set(attempt, own);
    this.#options.log.info({ attempt, test: work.test, turn: work.turn, from: work.fromStep }, 'begun');
    let window: Window | undefined;
    const voice = work.isTrial ? openTrialVoice(this.#options.call, work) : openOutboxVoice(this.#outbox, work);
    try {
      own.session = await openSession(await this.#getHost(), { reach: createReach(work.applications.map(({ address }) => address)) });
      const shown = (window = this.#options.windows.open(attempt, own.session));
      const { outcome } = await doTest(own.session, toGivenTest(work, this.#options.patienceMs), {
        onStep: voice.onStep,
        onPlace: shown.at,
        mayGoOn: (index) => {
          shown.at(index, null);
          return this.#mayGoOn(own, index);
        },
      });
      if (outcome !== 'stopped') await voice.finish();
      this.#options.log.info({ attempt, outcome }, 'ended');
    } catch (error) {
      if (!own.isStopped && !this.#stopping.signal.aborted) await this.#stumble(work, { voice, own }, error);
    } finally {
      this.#doing.delete(attempt);
      window?.close();
      await own.session?.close().catch(() => undefined);
    }
  }

  async #mayGoOn(own: Doing, index: number): Promise<boolean> {
    own.step = index;
    void this.#hear();
    const isOver = () => own.isStopped || this.#stopping.signal.aborted;
    while (this.#order === 'pause' && !isOver()) await rest(PAUSE_MS, this.#stopping.signal);
    return !isOver();
  }

  /** A fault of the runner itself: the attempt ends as blocked, and says so. */
  async #stumble(work: Work, { voice, own }: { readonly voice: Voice; readonly own: Doing }, error: unknown): Promise<void> {
    const words = maskSecrets(error instanceof Error ? error.message : String(error), listSecrets(work));
    this.#options.log.error({ attempt: work.attempt, words }, 'the runner stumbled');
    const note = `The runner stumbled over this step: ${words}`;
    voice.onStep({ ...PLAIN, outcome: 'blocked', note, index: own.step, tookMs: 0 }, undefined, undefined);
    // A trial that was stopped hears no more of it; that is no matter of the runner's.
    await voice.finish().catch((failure: unknown) => this.#options.log.warn({ attempt: work.attempt, words: String(failure) }, 'not told'));
  }
}

async function replaceBrowser(
  gone: BrowserHost | undefined,
  { chromium, folder }: Pick<RunnerOptions, 'chromium' | 'folder'>,
): Promise<BrowserHost> {
  await gone?.close().catch(() => undefined);
  return startBrowser(chromium, folder);
}

async function sendItem(call: CallServer, attempt: AttemptId, item: OutboxItem): Promise<void> {
  if (item.kind === 'step') await call('recordStep', item.word, { params: { attempt, step: String(item.stepIndex) } });
  if (item.kind === 'capture') await call('keepCapture', { gzip: item.gzip }, { params: { attempt, step: String(item.stepIndex) } });
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
