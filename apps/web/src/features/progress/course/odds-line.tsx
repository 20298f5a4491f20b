import type { Odds } from '@kindred-baton/core/progress/decision';
import { formatDay, formatShare } from '../../../ui/format.ts';

const nameDate = (date: string | null) => (date === null ? 'a later day' : formatDay(date));

export const OddsLine = ({ odds: { even, late, inTime } }: { readonly odds: Odds }) => (
  <>
    even odds by {nameDate(even)}, 85% by {nameDate(late)}; in time {formatShare(inTime)}
  </>
);
