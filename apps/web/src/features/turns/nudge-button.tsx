import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNotice } from '../../ui/notices.tsx';
import { sendJson, toMessage } from '../../ui/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';

interface NudgeButtonProps {
  readonly turn: string;
  readonly title: string;
  readonly nudges: number;
}

/** Asks whoever has the baton for it, politely; at most once a day, and counted. */
export function NudgeButton({ turn, title, nudges }: NudgeButtonProps) {
  const { api } = useProgramme();
  const client = useQueryClient();
  const notify = useNotice();
  const [isBusy, setIsBusy] = useState(false);
  const nudge = async () => {
    setIsBusy(true);
    try {
      const { to } = await sendJson<{ to: string }>('POST', `${api}/turns/${turn}/nudge`);
      notify({ kind: 'done', text: `${to} gets a friendly word.` });
      await client.invalidateQueries({ queryKey: ['turns'] });
    } catch (error) {
      notify({ kind: 'problem', text: toMessage(error) });
    } finally {
      setIsBusy(false);
    }
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
