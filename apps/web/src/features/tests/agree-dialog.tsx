import { DialogBox } from '../../ui/dialog.tsx';
import { countOf } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import type { BrokenScenario } from './use-saving.ts';

interface AgreeDialogProps {
  readonly test: string;
  readonly version: number;
  readonly broken: readonly BrokenScenario[];
  readonly onAgree: () => void;
  readonly onClose: () => void;
}

/** Before a version is agreed that scenarios would break with: which, why, and what may be done. */
export default function AgreeDialog({ test, version, broken, onAgree, onClose }: AgreeDialogProps) {
  const { base } = useProgramme();
  return (
    <DialogBox title={`Version ${version} would break ${countOf(broken.length, 'scenario')}`} isOpen onClose={onClose} width={680}>
      <ul className="grid gap-2 text-[13px]">
        {broken.map(({ code, name, legs, brings }) => (
          <li key={code}>
            <a className="font-semibold underline" href={`${base}/scenarios/${code}`}>
              {code}
            </a>{' '}
            {name}, {legs.length === 1 ? `leg ${legs[0]}` : `legs ${legs.join(', ')}`}
            {brings.map(({ message }) => (
              <span key={message} className="block text-soft">
                {message}
              </span>
            ))}
          </li>
        ))}
      </ul>
      <p className="mt-3 text-[13px]">
        Agreed all the same, they stay with the version that they use, and cycles go on with that, until somebody takes version {version}{' '}
        over. Or mend them first: keep the names that they are wired by, or see{' '}
        <a className="underline" href={`${base}/scenarios?view=review&test=${encodeURIComponent(test)}`}>
          what the change does in each
        </a>
        .
      </p>
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <button type="button" className="button" onClick={onClose}>
          Not yet
        </button>
        <button type="button" className="button button-primary" onClick={onAgree}>
          Agree version {version} all the same
        </button>
      </div>
    </DialogBox>
  );
}
