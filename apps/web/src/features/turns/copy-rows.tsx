import Copy from 'lucide-react/icons/copy';
import { useState } from 'react';
import { countOf } from '../../ui/format.ts';
import { useNotice } from '../../ui/notices.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { toLines } from './to-lines.ts';

/** More than these are taken as a file: a clipboard is no place for them. */
const MOST = 20_000;

interface CopyRowsProps {
  readonly query: Readonly<Record<string, string>>;
  readonly turns: number;
}

/** All turns of the list, of all its pages, as lines with tabs: pasted into a spreadsheet they are rows. */
export function CopyRows({ query, turns }: CopyRowsProps) {
  const { api } = useProgramme();
  const notify = useNotice();
  const [isBusy, setIsBusy] = useState(false);
  const load = async (): Promise<Blob> => {
    const answer = await fetch(`${api}/extracts/turns?${new URLSearchParams({ ...query, format: 'jsonl' })}`);
    if (!answer.ok) throw new Error(((await answer.json()) as { message?: string }).message ?? 'The server is away.');
    return new Blob([toLines(await answer.text())], { type: 'text/plain' });
  };
  const copy = async () => {
    setIsBusy(true);
    try {
      // The promise goes along: browsers let it be written as long as the press is fresh.
      await navigator.clipboard.write([new ClipboardItem({ 'text/plain': load() })]);
      notify({ kind: 'done', text: `${countOf(turns, 'row')} copied, to be pasted into a spreadsheet.` });
    } catch (error) {
      notify({
        kind: 'problem',
        text: `It was not copied: ${error instanceof Error ? error.message : String(error)} Take it as a file under Data.`,
      });
    }
    setIsBusy(false);
  };
  return (
    <button
      type="button"
      className="button"
      disabled={isBusy || turns === 0}
      onClick={() =>
        turns > MOST
          ? notify({ kind: 'problem', text: `Up to ${MOST.toLocaleString('en')} rows are copied; take more as a file under Data.` })
          : void copy()
      }
    >
      <Copy size={16} aria-hidden /> {isBusy ? 'Copying …' : 'Copy rows'}
    </button>
  );
}
