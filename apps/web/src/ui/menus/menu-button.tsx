import type { MenuButtonProps } from './menu-face.tsx';
import { MenuFace, toMenuLook } from './menu-face.tsx';
import { SleepingButton, wakeOnPress } from './sleeping-button.tsx';

/** A button that offers a few things to do. */
export const MenuButton = wakeOnPress<MenuButtonProps>(
  () => import('./open-menu.tsx').then(({ OpenMenu }) => OpenMenu),
  (props, wake) => (
    <SleepingButton className={toMenuLook(props)} isDisabled={props.isDisabled ?? false} popup="menu" {...wake}>
      <MenuFace {...props} />
    </SleepingButton>
  ),
);
