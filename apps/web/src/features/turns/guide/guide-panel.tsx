import { useRead } from '../../../client/use-read.ts';
import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import ExternalLink from 'lucide-react/icons/external-link';
import Maximize2 from 'lucide-react/icons/maximize-2';
import Minimize2 from 'lucide-react/icons/minimize-2';
import X from 'lucide-react/icons/x';
import type { ReactNode } from 'react';
import { useEffect, useRef, useState } from 'react';
import { toMessage } from '../../../client/request.ts';
import { Beside, useBeside } from './guide-window.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { GuideAttempt } from './guide-attempt.tsx';
import { GuideStart } from './guide-start.tsx';

interface GuidePanelProps {
  readonly turnId: string;
  readonly initial?: GuideView;
  readonly onClose?: () => void;
  /** It was opened by a press or Enter: keys go into it from now on. */
  readonly takesFocus?: boolean;
}

/** The guide: one step at a time, beside the application under test. */
export function GuidePanel({ turnId, initial, onClose, takesFocus = false }: GuidePanelProps) {
  const { base } = useProgramme();
  const { data, error } = useRead('getGuide', { params: { turn: turnId } }, initial ? { initialData: initial } : {});
  const [isSmall, setIsSmall] = useState(false);
  const section = useRef<HTMLElement>(null);
  useEffect(() => {
    if (takesFocus) section.current?.focus();
  }, [takesFocus]);
  const { beside, open, fold } = useBeside(`${base}/turns/${turnId}`);
  const attempt = data?.attempts.find((candidate) => candidate.isMine && candidate.finishedAt === null);
  const frame = (head: ReactNode, body: ReactNode) => (
    <>
      {beside && <p className="card px-4 py-3">The guide is in its own window, which stays on top. Close that to have it here again.</p>}
      <Beside beside={beside}>
        <section
          ref={section}
          tabIndex={-1}
          aria-label="Guide"
          className="floats card overflow-hidden rounded-leg! shadow-float outline-none"
        >
          <header className="flex items-start justify-between gap-3 bg-deep px-4 py-2.5 text-on-deep">
            <div className="min-w-0">{head}</div>
            <div className="flex flex-none gap-1">
              {!beside && <HeadButton label="Open in a window of its own" onPress={() => void open()} Icon={ExternalLink} />}
              <HeadButton
                label={isSmall ? 'Show the whole guide' : 'Fold the guide to one line'}
                onPress={() => {
                  fold(!isSmall);
                  setIsSmall(!isSmall);
                }}
                Icon={isSmall ? Maximize2 : Minimize2}
              />
              {onClose && !beside && <HeadButton label="Close the guide" onPress={onClose} Icon={X} />}
            </div>
          </header>
          {body}
        </section>
      </Beside>
    </>
  );
  if (error && !data) return frame(<b>Guide</b>, <p className="p-4">{toMessage(error)}</p>);
  if (!data) return frame(<b>Guide</b>, <p className="p-4 text-soft">Loading …</p>);
  if (attempt && data.version) return <GuideAttempt key={attempt.id} guide={data} attempt={attempt} isSmall={isSmall} frame={frame} />;
  return frame(
    <>
      <p className="text-[13px] opacity-85">
        Leg {data.turn.leg} of {data.turn.legs}
      </p>
      <b className="text-[15px]">{data.turn.title}</b>
    </>,
    isSmall ? null : <GuideStart guide={data} />,
  );
}

interface HeadButtonProps {
  readonly label: string;
  readonly onPress: () => void;
  readonly Icon: typeof X;
}

function HeadButton({ label, onPress, Icon }: HeadButtonProps) {
  return (
    <button
      type="button"
      onClick={onPress}
      aria-label={label}
      title={label}
      className="flex h-7 w-7 items-center justify-center rounded-control hover:bg-[#2a4a51]"
    >
      <Icon size={16} aria-hidden />
    </button>
  );
}
