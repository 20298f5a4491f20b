import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { useEffect } from 'react';
import { isTyping } from '../../ui/is-typing.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { WindowSteps } from './window-steps.tsx';

interface PastScreensProps {
  readonly guide: GuideView;
  readonly attempt: AttemptView;
}

/** An attempt that has ended, step by step, from the pictures that were taken; the step is in the address, and the arrow keys go through. */
export function PastScreens({ guide, attempt }: PastScreensProps) {
  const { api } = useProgramme();
  const address = useAddress();
  const count = attempt.isOfVersion
    ? (guide.version?.steps.length ?? 0)
    : Math.max(0, ...attempt.results.map(({ stepIndex }) => stepIndex + 1));
  const stopped = attempt.results.find(({ outcome }) => outcome === 'failed' || outcome === 'blocked');
  const asked = Number(address.get('step') ?? NaN) - 1;
  const at = Number.isInteger(asked) && asked >= 0 && asked < count ? asked : (stopped?.stepIndex ?? 0);
  const choose = (index: number) => address.set({ step: String(index + 1) }, { replace: true });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
      if (by === 0 || isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const next = at + by;
      if (next >= 0 && next < count) choose(next);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  const pictures = attempt.evidence.filter(({ mediaType }) => mediaType.startsWith('image/'));
  const shown = pictures.filter(({ stepIndex }) => stepIndex === at);
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_340px]">
      <section className="card self-start overflow-hidden" aria-label="The application">
        <header className="flex items-center gap-2 border-b border-line-2 px-4 py-2">
          <h2 className="min-w-0 flex-1 truncate text-[15px]">As it was at step {at + 1}</h2>
          <button type="button" className="button button-small" disabled={at === 0} onClick={() => choose(at - 1)}>
            Before
          </button>
          <button type="button" className="button button-small" disabled={at >= count - 1} onClick={() => choose(at + 1)}>
            Next
          </button>
        </header>
        {shown.map(({ id, name }) => (
          <img key={id} src={`${api}/evidence/${id}`} alt={name} className="block w-full border-b border-line-2 last:border-b-0" />
        ))}
        {shown.length === 0 && (
          <p className="px-5 py-10 text-center text-soft">
            {pictures.length === 0 ? 'No pictures were taken in this attempt.' : 'No picture was taken at this step.'}
          </p>
        )}
      </section>
      <WindowSteps guide={guide} attempt={attempt} at={at} onChoose={choose} />
    </div>
  );
}
