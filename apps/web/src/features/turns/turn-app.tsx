import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { GUIDE_KEYS } from './guide/guide-keys.ts';
import { GuidePanel } from './guide/guide-panel.tsx';

/** One turn by its own address: the guide, and around it where the turn belongs. */
export function TurnApp({ content, ...frame }: PageProps<GuideView>) {
  return (
    <AppFrame {...frame} area="turns" keys={GUIDE_KEYS}>
      <div className="mx-auto max-w-[560px]">
        <Belongs guide={content} />
        <GuidePanel turnId={content.turn.id} initial={content} />
      </div>
    </AppFrame>
  );
}

function Belongs({ guide }: { readonly guide: GuideView }) {
  const { base } = useProgramme();
  const { turn } = guide;
  return (
    <div className="mb-4">
      <p className="text-[13px] text-soft">
        <a className="hover:underline" href={`${base}/cycles/${turn.cycle.code}`}>
          {turn.cycle.name}
        </a>{' '}
        ›{' '}
        <a className="hover:underline" href={`${base}/scenarios/${turn.scenario.code}`}>
          {turn.scenario.name}
        </a>
      </p>
      <h1>{turn.title}</h1>
      <p className="text-[13px] text-soft">
        {turn.team} · with {turn.assignee ?? 'nobody yet'}
        {turn.scenario.rowName !== null && ` · ${turn.scenario.rowName}`}
      </p>
    </div>
  );
}
