import type { TrialResult, TrialView } from '@kindred-baton/contracts/runners/trial';
import type { Step } from '@kindred-baton/core/tests/step';
import X from 'lucide-react/icons/x';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import { BatonMark } from '../../../ui/baton-mark.tsx';
import { countOf } from '../../../ui/format.ts';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';

const LOOK_MS = 5_000;
const isOpen = ({ state }: TrialView) => state === 'waiting' || state === 'under way';

/** What a runner tried last for this editor, by its address; undefined while there is none. */
export function useTrial(): TrialView | undefined {
  const id = useAddress().get('trial');
  const { data } = useRead(
    'getTrial',
    { params: { trial: id ?? '' } },
    { enabled: id !== null, retry: false, refetchInterval: ({ state }) => (state.data && isOpen(state.data) ? LOOK_MS : false) },
  );
  return id === null ? undefined : data;
}

/** How the trial stands, above the steps. */
export function TrialLine({ trial }: { readonly trial: TrialView }) {
  const { act } = useChanges();
  const { api } = useProgramme();
  const address = useAddress();
  const last = trial.results.at(-1);
  return (
    <p role="status" className="flex flex-wrap items-center gap-2 border-b border-line-2 bg-band px-3 py-2 text-[13px]">
      <b>{describeTrial(trial)}</b>
      <span className="text-soft">
        {trial.environment}
        {trial.runner !== null && `, by ${trial.runner}`}. Counted nowhere.
      </span>
      {trial.hasPicture && (
        <a className="underline" href={`${api}/trials/${trial.id}/picture?of=${trial.results.length}`} target="_blank" rel="noreferrer">
          {last && last.outcome !== 'passed' ? `The screen at step ${trial.results.length}` : 'The last screen'}
        </a>
      )}
      <span className="ml-auto flex gap-2">
        {isOpen(trial) && (
          <button type="button" className="button button-small" onClick={() => void act('stopTrial', { params: { trial: trial.id } })}>
            Stop
          </button>
        )}
        <button
          type="button"
          className="button button-quiet button-small"
          aria-label="Close the trial"
          onClick={() => address.set({ trial: null })}
        >
          <X size={16} aria-hidden />
        </button>
      </span>
    </p>
  );
}

export function describeTrial({ state, results, steps, isHeard }: Pick<TrialView, 'state' | 'results' | 'steps' | 'isHeard'>): string {
  const last = results.at(-1);
  if (state === 'waiting') return isHeard ? 'Waiting for a session that is free …' : 'No runner is heard of: start one, and it takes this.';
  if (state === 'under way') return `Step ${Math.min(results.length + 1, steps.length)} of ${steps.length} …`;
  if (state === 'stopped') return `Stopped after ${countOf(results.length, 'step')}.`;
  if (state === 'broken off') return `The runner was not heard of any more after ${countOf(results.length, 'step')}. Try it again.`;
  if (last?.outcome === 'failed') return `Failed at step ${results.length}.`;
  if (last?.outcome === 'blocked') return `Blocked at step ${results.length}.`;
  return `${steps.length === 1 ? 'The step' : `All ${steps.length} steps`} done.`;
}

/** What came of a step when it was tried; nothing where the step is another one by now. */
export function findTried(trial: TrialView | undefined, step: Step, index: number): TrialResult | undefined {
  const tried = trial?.steps[index];
  return tried && JSON.stringify(sortKeys(tried)) === JSON.stringify(sortKeys(step)) ? trial.results[index] : undefined;
}

const sortKeys = (step: Step) =>
  Object.entries(step)
    .filter(([, value]) => value !== undefined && value !== '' && value !== false)
    .sort(([a], [b]) => a.localeCompare(b));

/** Beneath a step: its outcome, and what stood there. */
export function TriedRow({ result }: { readonly result: TrialResult | undefined }) {
  if (!result) return null;
  const { outcome, note, expected, actual, unlooked, kept, tookMs } = result;
  const words = [
    note,
    outcome === 'failed' && expected !== '' ? `Looked for ${expected}.` : '',
    actual !== '' && kept === null ? `Seen: ${actual}` : '',
    kept === null ? '' : `Kept: ${kept}`,
    unlooked === '' ? '' : `For a person to judge: ${unlooked}`,
  ].filter((text) => text !== '');
  return (
    <tr>
      <td className="pt-0!">
        <span className="flex justify-center">
          <BatonMark status={outcome} />
        </span>
      </td>
      <td
        colSpan={6}
        className={`pt-0! text-[13px] whitespace-pre-wrap ${outcome === 'passed' || outcome === 'skipped' ? 'text-soft' : 'font-semibold'}`}
      >
        {words.join(' · ') || 'Done'} <span className="font-normal text-soft">({(tookMs / 1_000).toFixed(1)} s)</span>
      </td>
    </tr>
  );
}
