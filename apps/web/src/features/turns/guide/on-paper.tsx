import { toAddress } from '../../../client/call.ts';
import { useChanges } from '../../../client/use-changes.ts';
import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import { useState } from 'react';
import { FileButton } from '../../../ui/file-button.tsx';
import { useNotice } from '../../../ui/notices.tsx';
import { toMessage } from '../../../client/request.ts';
import { useProgramme } from '../../frame/programme-context.tsx';

/** A turn on paper: a sheet to fill in, to print, and the filled one back as an attempt. */
export function OnPaper({ guide }: { readonly guide: GuideView }) {
  const { api } = useProgramme();
  const { change } = useChanges();
  const notify = useNotice();
  const [problem, setProblem] = useState<string | null>(null);
  const params = { turn: guide.turn.id };
  const path = toAddress(api, 'exportTurn', { params });
  const bring = async (file: File) => {
    setProblem(null);
    const form = new FormData();
    form.set('file', file);
    try {
      const { outcome } = await change('keepSheet', { params, form });
      notify({ kind: 'done', text: `The sheet is kept as an attempt: ${outcome}.` });
    } catch (error) {
      setProblem(toMessage(error));
    }
  };
  if (!guide.version) return null;
  return (
    <details className="border-t border-line-2 px-4 py-3">
      <summary className="w-fit font-bold">On paper</summary>
      <p className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2 text-[13px]">
        <a className="underline" href={`${path}?format=xlsx`} download>
          Turn sheet to fill in (XLSX)
        </a>
        <a className="underline" href={`${path}?format=pdf`} download>
          To print (PDF)
        </a>
        {guide.refusal === null && (
          <FileButton label="The filled sheet" accept=".xlsx" isSmall onChoose={(file) => void bring(file)}>
            Bring a filled sheet in
          </FileButton>
        )}
      </p>
      {problem !== null && (
        <p role="alert" className="mt-2 text-[13px] font-semibold text-failed">
          {problem}
        </p>
      )}
    </details>
  );
}
