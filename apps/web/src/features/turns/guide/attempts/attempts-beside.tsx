import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { toSheetText } from '@kindred-baton/core/turns/turn-sheet';
import { BatonChip } from '../../../../ui/baton-chip.tsx';
import { BatonMark } from '../../../../ui/baton-mark.tsx';
import { DialogBox } from '../../../../ui/dialog.tsx';
import { Moment } from '../../../../ui/moment.tsx';
import { useProgramme } from '../../../frame/programme-context.tsx';

/** Attempts of a turn side by side: a column an attempt, a row a step. */
export function AttemptsBeside({ guide, onClose }: { readonly guide: GuideView; readonly onClose: () => void }) {
  const attempts = [...guide.attempts].reverse();
  const steps = guide.version?.steps ?? [];
  const rows = Math.max(steps.length, ...attempts.flatMap(({ results }) => results.map(({ stepIndex }) => stepIndex + 1)));
  return (
    <DialogBox title={`${guide.turn.title}: attempts side by side`} isOpen onClose={onClose} width={1_100}>
      <div className="max-h-[68vh] overflow-auto">
        <table className="grid-table">
          <thead>
            <tr>
              <th scope="col">Step</th>
              {attempts.map((attempt) => (
                <th key={attempt.id} scope="col">
                  Attempt {attempt.number}
                  <span className="block font-normal">
                    {attempt.person}, <Moment at={attempt.finishedAt ?? attempt.startedAt} />
                    {attempt.isFromSheet && ', on paper'}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: rows }, (_, index) => (
              <tr key={index} className="align-top">
                <th scope="row" className="border-b-line-2! font-normal! whitespace-normal! text-ink!">
                  <span className="mr-2 font-mono text-soft">{index + 1}</span>
                  {steps[index] ? toSheetText(steps[index]) : 'a step of another version'}
                </th>
                {attempts.map((attempt) => (
                  <td key={attempt.id} className="align-top! text-[13px]">
                    <Result attempt={attempt} index={index} />
                  </td>
                ))}
              </tr>
            ))}
            <tr>
              <th scope="row">Kept</th>
              {attempts.map(({ id, kept }) => (
                <td key={id}>
                  {Object.entries(kept).map(([name, value]) => (
                    <BatonChip key={name} name={name} value={value} canCopy />
                  ))}
                </td>
              ))}
            </tr>
            <tr>
              <th scope="row">Where</th>
              {attempts.map(({ id, environment, browser }) => (
                <td key={id} className="text-[13px] text-soft">
                  {environment}, {browser}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
    </DialogBox>
  );
}

function Result({ attempt, index }: { readonly attempt: AttemptView; readonly index: number }) {
  const { api } = useProgramme();
  const result = attempt.results.find(({ stepIndex }) => stepIndex === index);
  const files = attempt.evidence.filter(({ stepIndex }) => stepIndex === index);
  return (
    <>
      <BatonMark status={result?.outcome ?? 'waiting'} />
      {result && result.by !== attempt.person && <span className="ml-2 text-soft">{result.by}</span>}
      {result?.note && <span className="block">{result.note}</span>}
      {files.map((file) => (
        <a key={file.id} className="block underline" href={`${api}/evidence/${file.id}`} target="_blank" rel="noreferrer">
          {file.name}
        </a>
      ))}
    </>
  );
}
