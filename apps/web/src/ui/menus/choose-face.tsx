import ChevronDown from 'lucide-react/icons/chevron-down';

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
