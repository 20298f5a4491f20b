import type { WrongStepView } from '@kindred-baton/contracts/progress/wrong-steps';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { BatonBar } from '../../ui/baton-mark.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

const WIDEST_PX = 92;
const NARROWEST_PX = 10;

interface TriesCellProps {
  readonly of: Pick<WrongStepView, 'tries' | 'failed' | 'blocked'>;
  /** The most tries of any line: its bar is the widest. */
  readonly most: number;
  /** Shows what went wrong. */
  readonly onOpen: () => void;
}

/** How much of the tries went wrong, as wide as there were tries. */
export function TriesCell({ of: { tries, failed, blocked }, most, onOpen }: TriesCellProps) {
  return (
    <td>
      <span className="block" style={{ width: NARROWEST_PX + ((WIDEST_PX - NARROWEST_PX) * tries) / most }}>
        <BatonBar counts={{ ...NO_COUNTS, failed, blocked, waiting: tries - failed - blocked }} isDecoration />
      </span>
      <button type="button" className="min-h-[26px] text-[13px] whitespace-nowrap hover:underline" onClick={onOpen}>
        <strong>{failed + blocked}</strong> of {tries}
        {blocked > 0 && <span className="text-soft">{failed === 0 ? ' blocked' : `, ${blocked} blocked`}</span>}
      </button>
    </td>
  );
}

/** The first of some defects, and how many more there are. */
export function DefectsCell({ defects }: Pick<WrongStepView, 'defects'>) {
  const { base } = useProgramme();
  const [defect] = defects;
  return (
    <td className="whitespace-nowrap">
      {defect ? (
        <a className={`underline ${defect.isOpen ? '' : 'text-soft'}`} href={`${base}/defects/${defect.code}`} title={defect.title}>
          {defect.code}
        </a>
      ) : (
        <span className="text-soft">none</span>
      )}
      {defects.length > 1 && <span className="text-[13px] text-soft"> and {defects.length - 1}</span>}
    </td>
  );
}
