import ChevronDown from 'lucide-react/icons/chevron-down';
import { SleepingButton, wakeOnPress } from './sleeping-button.tsx';

interface Choice {
  readonly key: string;
  readonly name: string;
}

export interface ChooseProps {
  readonly label: string;
  readonly choices: readonly Choice[];
  readonly chosen: string | null;
  readonly onChoose: (key: string) => void;
  readonly isDisabled?: boolean;
}

export const CHOOSE_LOOK = 'button max-w-[260px] font-normal';

export function ChooseFace({ label, text }: { readonly label: string; readonly text: string | undefined }) {
  return (
    <>
      <span className="overflow-hidden text-ellipsis">
        <span className="text-soft">{label}</span> <b className="font-semibold">{text || 'choose'}</b>
      </span>
      <ChevronDown size={16} aria-hidden className="flex-none" />
    </>
  );
}

/** One of a list, as a control of the title row: its label and its value in one button. */
export const Choose = wakeOnPress<ChooseProps>(
  () => import('./open-choose.tsx').then(({ OpenChoose }) => OpenChoose),
  ({ label, choices, chosen, isDisabled = false }, wake) => {
    const text = choices.find(({ key }) => key === chosen)?.name;
    return (
      <span className="min-w-0">
        <SleepingButton label={`${label} ${text ?? ''}`.trim()} className={CHOOSE_LOOK} isDisabled={isDisabled} popup="listbox" {...wake}>
          <ChooseFace label={label} text={text} />
        </SleepingButton>
      </span>
    );
  },
);
