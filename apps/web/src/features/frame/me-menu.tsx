import { Button, Header, Menu, MenuItem, MenuSection, MenuTrigger, Popover } from 'react-aria-components';
import { sendJson } from '../../ui/request.ts';
import { useProgramme } from './programme-context.tsx';
import { chooseTheme, THEMES } from './theme.ts';

const ITEM = 'cursor-pointer rounded-control px-3 py-1.5 outline-none data-[focused]:bg-band';

export function MeMenu({ initials }: { readonly initials: string }) {
  const { viewer, base, can } = useProgramme();
  const signOut = async () => {
    await sendJson('POST', '/api/auth/sign-out', {});
    location.href = '/sign-in';
  };
  const act = (key: string) => {
    if (key === 'sign-out') void signOut();
    else if (key === 'me' || key === 'set-up') location.href = `${base}/${key}`;
    else if (key.startsWith('go-')) location.href = `/${key.slice(3)}/progress`;
    else chooseTheme(THEMES.find(({ id }) => id === key)?.theme ?? null);
  };
  return (
    <MenuTrigger>
      <Button
        aria-label={`${initials}, ${viewer.person.name}: menu`}
        className="flex h-[30px] w-[30px] items-center justify-center rounded-full bg-[#40585e] text-[12px] font-bold text-on-deep"
      >
        {initials}
      </Button>
      <Popover className="floats card min-w-[230px] p-1 shadow-float">
        <Menu className="outline-none" onAction={(key) => act(String(key))}>
          <MenuSection>
            <Header className="px-3 pt-2 pb-1">
              <b className="block">{viewer.person.name}</b>
              <span className="text-[13px] text-soft">
                {viewer.roles.join(', ')} · {viewer.programme.name}
              </span>
            </Header>
            {viewer.programmes
              .filter(({ key }) => key !== viewer.programme.key)
              .map(({ key, name }) => (
                <MenuItem key={key} id={`go-${key}`} className={ITEM}>
                  Go to {name}
                </MenuItem>
              ))}
          </MenuSection>
          <MenuItem id="me" className={ITEM}>
            My account
          </MenuItem>
          {can('set up the programme') && (
            <MenuItem id="set-up" className={ITEM}>
              Set up the programme
            </MenuItem>
          )}
          <MenuSection>
            <Header className="px-3 pt-2 text-[13px] text-soft">Look</Header>
            {THEMES.map(({ id, name }) => (
              <MenuItem key={id} id={id} className={ITEM}>
                {name}
              </MenuItem>
            ))}
          </MenuSection>
          <MenuItem id="sign-out" className={`${ITEM} border-t border-line-2`}>
            Sign out
          </MenuItem>
        </Menu>
      </Popover>
    </MenuTrigger>
  );
}
