import { useChanges } from '../../client/use-changes.ts';
import { useProgramme } from '../frame/programme-context.tsx';

interface StopRunnerProps {
  readonly attempt: string;
  readonly turn: string;
  readonly title: string;
}

/** Takes a turn out of a runner's hands in the middle: it is with whoever says so, who goes on from the step it had come to. */
export function StopRunner({ attempt, turn, title }: StopRunnerProps) {
  const { base, viewer } = useProgramme();
  const { act } = useChanges();
  const stop = async () => {
    const input = { personId: viewer.person.id, word: '' };
    if (await act('handOver', { params: { attempt }, input })) window.location.assign(`${base}/turns/${turn}`);
  };
  return (
    <button type="button" className="button button-small" onClick={() => void stop()} aria-label={`Stop ${title} and go on by hand`}>
      Take over
    </button>
  );
}
