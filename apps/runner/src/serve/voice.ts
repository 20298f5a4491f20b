import { randomUUID } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import type { Work } from '@kindred-baton/contracts/runners/runner';
import type { AttemptId } from '@kindred-baton/core/ids';
import type { Capture } from '@kindred-baton/core/screens/capture';
import type { OnStep } from '../drive/do-test.ts';
import type { CallServer } from './call-server.ts';
import type { Outbox, OutboxItem } from './outbox.ts';
import { listSecrets, maskSecrets } from './to-given-test.ts';

/** How a runner tells what it does. */
export interface Voice {
  readonly onStep: OnStep;
  readonly finish: () => Promise<void>;
}

/** Of a turn: through the outbox, so that nothing is lost. */
export const openOutboxVoice = (outbox: Outbox, work: Work): Voice => ({
  onStep: createStepWriter(outbox, work.attempt, listSecrets(work)),
  finish: async () => {
    await outbox.put(work.attempt, { kind: 'finish' });
  },
});

/** Of a trial: straight to whoever waits for it, in order. What cannot be sent ends it; nothing of it counts. */
export function openTrialVoice(call: CallServer, work: Work): Voice {
  const clean = (text: string) => maskSecrets(text, listSecrets(work)).slice(0, MOST_SIGNS);
  const params = { trial: work.attempt };
  let sent: Promise<unknown> = Promise.resolve();
  return {
    onStep: ({ outcome, note, expected, actual, left, kept, tookMs }, picture) => {
      const [value = null] = Object.values(kept);
      const words = { note: clean(note), expected: clean(expected), actual: clean(actual), unlooked: clean(left) };
      const jpeg = picture ? { picture: Buffer.from(picture).toString('base64') } : {};
      sent = sent.then(() => call('recordTrial', { outcome, ...words, kept: value, tookMs, ...jpeg }, { params }));
      // Heard of when it is finished.
      sent.catch(() => undefined);
    },
    finish: async () => {
      await sent;
      await call('finishTrial', undefined, { params });
    },
  };
}

const MOST_SIGNS = 10_000;

/** What was looked for and what is there, as a sentence. */
export function describeFailure(expected: string, actual: string): string {
  if (actual === '') return `Looked for “${expected}”; nothing stands there.`;
  return actual.endsWith('.') ? actual : `Looked for “${expected}”; it shows “${actual}”.`;
}

function createStepWriter(outbox: Outbox, attempt: AttemptId, secrets: readonly string[]): OnStep {
  const clean = (text: string) => maskSecrets(text, secrets).slice(0, MOST_SIGNS);
  return ({ index, outcome, expected, actual, left, note, kept, tookMs }, picture, capture) => {
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
    if (capture) void outbox.put(attempt, { kind: 'capture', stepIndex: index, gzip: packCapture(capture, secrets) });
    void outbox.put(attempt, item);
  };
}

/** The screen as data, without what is secret on it, as gzip (RFC 1952) in base64. */
export function packCapture({ address, title, elements }: Capture, secrets: readonly string[]): string {
  const clean = (text: string) => maskSecrets(text, secrets);
  const masked = elements.map((element) => ({
    ...element,
    ...{ name: clean(element.name), text: clean(element.text), label: clean(element.label) },
    ...{ value: element.isSecret ? '' : clean(element.value), options: element.options.map(clean) },
  }));
  return gzipSync(JSON.stringify({ address: clean(address), title: clean(title), elements: masked })).toString('base64');
}
