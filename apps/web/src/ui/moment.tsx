import { useProgramme } from '../features/frame/programme-context.tsx';
import { formatMoment, formatWhole } from './format.ts';

/** A moment as people say it, with the exact time on hover. */
export function Moment({ at }: { readonly at: string }) {
  const { timeZone, nowMs } = useProgramme();
  return (
    <time dateTime={at} title={formatWhole(at, timeZone)} suppressHydrationWarning>
      {formatMoment(at, timeZone, nowMs)}
    </time>
  );
}
