import ChevronDown from 'lucide-react/icons/chevron-down';
import type { ReactNode } from 'react';

interface MenuChoice {
  readonly key: string;
  readonly name: string;
  /** A file to fetch, or a place to go. */
  readonly href?: string;
  readonly isDownload?: boolean;
}

export interface MenuButtonProps {
  readonly label: string;
  readonly icon?: ReactNode;
  readonly choices: readonly MenuChoice[];
  readonly onChoose?: (key: string) => void;
  readonly isDisabled?: boolean;
  readonly isSmall?: boolean;
}

/** What the button looks like, open or not. */
export const toMenuLook = ({ isSmall = false }: Pick<MenuButtonProps, 'isSmall'>) => `button ${isSmall ? 'button-small' : ''}`;

export function MenuFace({ label, icon }: Pick<MenuButtonProps, 'label' | 'icon'>) {
  return (
    <>
      {icon}
      {label}
      <ChevronDown size={15} aria-hidden />
    </>
  );
}
