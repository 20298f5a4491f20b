import { useChanges } from '../../client/use-changes.ts';
import { useState } from 'react';

interface NudgeButtonProps {
  readonly turn: string;
  readonly title: string;
  readonly nudges: number;
}

/** Asks whoever has the baton for it, politely; at most once a day, and counted. */
export function NudgeButton({ turn, title, nudges }: NudgeButtonProps) {
  const { act } = useChanges();
  const [isBusy, setIsBusy] = useState(false);
  const nudge = async () => {
    setIsBusy(true);
    await act('nudge', { params: { turn } }, ({ to }) => `${to} gets a friendly word.`);
    setIsBusy(false);
  };
  return (
    <button
      type="button"
      className="button button-small relative z-10"
      aria-label={`Nudge for ${title}`}
      disabled={isBusy}
      onClick={() => void nudge()}
    >
      Nudge{nudges > 0 && <span className="font-normal text-soft">{nudges}×</span>}
    </button>
  );
}
