import { Button, Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components';
import type { MenuButtonProps } from './menu-face.tsx';
import { MenuFace, toMenuLook } from './menu-face.tsx';

/** The menu button once it has been pressed: its menu is open. */
export function OpenMenu({ choices, onChoose, isDisabled = false, ...face }: MenuButtonProps) {
  return (
    <MenuTrigger defaultOpen>
      <Button className={toMenuLook(face)} isDisabled={isDisabled}>
        <MenuFace {...face} />
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
