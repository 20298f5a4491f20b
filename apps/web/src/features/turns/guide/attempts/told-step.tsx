import type { AttemptView } from '@kindred-baton/contracts/turns/turn';
import { fillStep } from '@kindred-baton/core/defects/describe-steps';
import { isTrouble } from '@kindred-baton/core/outcomes';
import type { Step } from '@kindred-baton/core/tests/step';
import { toSheetText } from '@kindred-baton/core/turns/turn-sheet';
import type { TemplateSource } from '@kindred-baton/core/values/template';
import { useProgramme } from '../../../frame/programme-context.tsx';

interface ToldStepProps {
  readonly result: AttemptView['results'][number];
  /** Those that were done; none where they are not known. */
  readonly steps: readonly Step[];
  readonly source: TemplateSource;
  readonly files: AttemptView['evidence'];
}

/** A step of which something was said; where it went wrong, with what was to be done, what should have been seen, and its pictures. */
export function ToldStep({ result, steps, source, files }: ToldStepProps) {
  const step = steps[result.stepIndex];
  const isWrong = isTrouble(result.outcome);
  const filled = step && isWrong ? fillStep(step, source) : null;
  return (
    <div className="mt-1 text-[13px]">
      Step {result.stepIndex + 1}
      {step && ` of ${steps.length}`}: {result.note === '' ? result.outcome : result.note}
      {filled && (
        <span className="block text-soft">
          {toSheetText(filled)}
          {filled.expect !== undefined && filled.expect !== '' && ` You should see: ${filled.expect}`}
        </span>
      )}
      {isWrong && result.expected !== '' && (
        <span className="block text-soft">
          Looked for {result.expected}
          {result.actual !== '' && result.actual !== result.note && `; saw ${result.actual}`}
        </span>
      )}
      <Evidence files={files} />
    </div>
  );
}

interface EvidenceProps {
  readonly files: AttemptView['evidence'];
  /** They stand beside no step. */
  readonly isNamingStep?: boolean;
}

const isPicture = ({ mediaType }: { readonly mediaType: string }) => mediaType.startsWith('image/');

/** Pictures and files of an attempt. */
export function Evidence({ files, isNamingStep = false }: EvidenceProps) {
  const { api } = useProgramme();
  if (files.length === 0) return null;
  return (
    <div className="mt-1 flex flex-wrap gap-2">
      {files.map((file) => (
        <a key={file.id} href={`${api}/evidence/${file.id}`} target="_blank" rel="noreferrer" className="text-[13px] underline">
          {isPicture(file) && (
            <img
              src={`${api}/evidence/${file.id}`}
              alt={isNamingStep ? '' : file.name}
              loading="lazy"
              className="mb-0.5 block h-[50px] w-[80px] rounded-[4px] border border-line object-cover object-top"
            />
          )}
          {isNamingStep
            ? isPicture(file)
              ? `step ${file.stepIndex + 1}`
              : `${file.name}, step ${file.stepIndex + 1}`
            : !isPicture(file) && file.name}
        </a>
      ))}
    </div>
  );
}
