import type { Staffed } from '@kindred-baton/contracts/cycles/plan';
import { countOf } from '../../../ui/format.ts';

/** What came of giving turns out, with what was left over. */
export const sayStaffed = ({ changed, left, stay }: Staffed) =>
  [
    `${countOf(changed, 'turn')} changed.`,
    left > 0 ? `${countOf(left, 'turn')} with nobody yet.` : '',
    stay > 0 ? `${countOf(stay, 'turn')} stay with people: a step is done by hand, nobody wrote the steps, or two must do it.` : '',
  ]
    .filter((part) => part !== '')
    .join(' ');
