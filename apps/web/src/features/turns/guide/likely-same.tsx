import { isHolding } from '@kindred-baton/core/defects/defect';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import { useEffect, useState } from 'react';
import { countOf } from '../../../ui/format.ts';
import { useNotice } from '../../../ui/notices.tsx';
import { toMessage } from '../../../client/request.ts';
import { useProgramme } from '../../frame/programme-context.tsx';

interface LikelySameProps {
  readonly attempt: string;
  readonly stepIndex: number;
  readonly title: string;
  readonly seen: string;
  readonly flush: (() => Promise<unknown>) | undefined;
  readonly onJoined: (code: string) => void;
}

const PAUSE_MS = 400;
const WHY_LABELS: Readonly<Record<string, string>> = { step: 'the same step', words: 'the same words', values: 'the same values' };

/** Defects that are known and likely the same: join one instead of logging it twice. */
export function LikelySame({ attempt, stepIndex, title, seen, flush, onJoined }: LikelySameProps) {
  const { base } = useProgramme();
  const notify = useNotice();
  const { change } = useChanges();
  const settled = useSettled(title);
  const { data } = useRead('getLikelySame', { input: { attemptId: attempt, stepIndex, title: settled, seen } });
  if (!data || data.likely.length === 0) return null;
  const join = async (code: string) => {
    try {
      await flush?.();
      await change('joinDefect', { input: { code, attemptId: attempt, stepIndex } });
      onJoined(code);
    } catch (error) {
      notify({ kind: 'problem', text: toMessage(error) });
    }
  };
  return (
    <section className="mb-3 rounded-card border border-line bg-band px-3 py-2" aria-label="Likely the same">
      <h3 className="text-[13px] font-bold">Likely the same</h3>
      <ul className="grid gap-2">
        {data.likely.map(({ code, title: known, status, why, waiting }) => (
          <li key={code} className="flex items-center justify-between gap-3 text-[13px]">
            <span className="min-w-0">
              <a className="font-mono underline" href={`${base}/defects/${code}`} target="_blank" rel="noreferrer">
                {code}
              </a>{' '}
              {known}
              <span className="block text-soft">
                {why.map((reason) => WHY_LABELS[reason] ?? reason).join(', ')} · {status} · {countOf(waiting, 'turn')}
              </span>
            </span>
            {isHolding(status) && (
              <button type="button" className="button button-small" aria-label={`It is ${code}`} onClick={() => void join(code)}>
                It is this one
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A text once nobody has typed for a moment. */
function useSettled(text: string): string {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
}
