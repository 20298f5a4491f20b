import ChevronDown from 'lucide-react/icons/chevron-down';
import type { ReactNode } from 'react';
import { Button, Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components';

interface MenuChoice {
  readonly key: string;
  readonly name: string;
  /** A file to fetch, or a place to go. */
  readonly href?: string;
  readonly isDownload?: boolean;
}

interface MenuButtonProps {
  readonly label: string;
  readonly icon?: ReactNode;
  readonly choices: readonly MenuChoice[];
  readonly onChoose?: (key: string) => void;
  readonly isDisabled?: boolean;
  readonly isSmall?: boolean;
}

/** A button that offers a few things to do. */
export function MenuButton({ label, icon, choices, onChoose, isDisabled = false, isSmall = false }: MenuButtonProps) {
  return (
    <MenuTrigger>
      <Button className={`button ${isSmall ? 'button-small' : ''}`} isDisabled={isDisabled}>
        {icon}
        {label}
        <ChevronDown size={15} aria-hidden />
      </Button>
      <Popover className="floats card min-w-(--trigger-width) p-1 shadow-float">
        <Menu className="outline-none" onAction={(key) => onChoose?.(String(key))}>
          {choices.map(({ key, name, href, isDownload }) => (
            <MenuItem
              key={key}
              id={key}
              {...(href === undefined ? {} : { href, ...(isDownload ? { download: '' } : {}) })}
              className="block cursor-pointer rounded-control px-3 py-1.5 outline-none data-[focused]:bg-band"
            >
              {name}
            </MenuItem>
          ))}
        </Menu>
      </Popover>
    </MenuTrigger>
  );
}
