import type { DoorAnswer } from '@kindred-baton/contracts/doors/door';
import { useState } from 'react';
import { useChanges } from '../../../client/use-changes.ts';
import { DoorAnswerText } from '../../doors/doors-card.tsx';

/** What came from a door, and for which step it was asked. */
export interface AskedAnswer extends DoorAnswer {
  readonly at: number;
}

interface AskDoorProps {
  readonly attemptId: string;
  readonly index: number;
  readonly answer: AskedAnswer | null;
  readonly onAnswer: (answer: AskedAnswer) => void;
}

/** The server asks the door for whoever does the step by hand: she need not know what opens it. */
export function AskDoor({ attemptId, index, answer, onAnswer }: AskDoorProps) {
  const { act } = useChanges();
  const [isAsking, setIsAsking] = useState(false);
  const ask = async () => {
    setIsAsking(true);
    const came = await act('askForStep', { params: { attempt: attemptId, step: String(index) } });
    setIsAsking(false);
    if (came) onAnswer({ ...came, at: index });
  };
  return (
    <div className="mt-3 grid gap-2">
      <p>
        <button type="button" className="button" onClick={() => void ask()} disabled={isAsking}>
          {isAsking ? 'Asking …' : answer ? 'Ask again' : 'Ask it now'}
        </button>
      </p>
      {answer && !answer.isAnswered && (
        <p role="alert" className="font-semibold text-failed">
          {answer.text}
        </p>
      )}
      {answer?.isAnswered && <DoorAnswerText text={answer.text} />}
    </div>
  );
}

/** What a step finds in the answer that was asked for before it. */
export function FoundInAnswer({ answer, index }: { readonly answer: AskedAnswer; readonly index: number }) {
  const look = answer.looks[index - answer.at - 1];
  if (!look || !answer.isAnswered) return null;
  return (
    <p role="status" className="mt-3 rounded-control bg-band px-3 py-2 text-[13px]">
      In the answer: <b className="font-mono">{look.actual || 'nothing'}</b>
      {look.holds ? ', as it should be.' : ', which is not what is looked for.'}
    </p>
  );
}
