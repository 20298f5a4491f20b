import { leaveTo } from '../../client/leave-to.ts';
import { Button, Header, Menu, MenuItem, MenuSection, MenuTrigger, Popover } from 'react-aria-components';
import { sendJson } from '../../client/request.ts';
import { useProgramme } from './programme-context.tsx';

const ITEM = 'cursor-pointer rounded-control px-3 py-1.5 outline-none data-[focused]:bg-band';

/** Who one is, where else one belongs, one's account (with the look), and for who may the set-up. */
export function MeMenu({ initials }: { readonly initials: string }) {
  const { viewer, base, can } = useProgramme();
  const signOut = async () => {
    await sendJson('POST', '/api/auth/sign-out', {});
    leaveTo('/sign-in');
  };
  const places = [
    ...viewer.programmes
      .filter(({ key }) => key !== viewer.programme.key)
      .map(({ key, name }) => ({ href: `/${key}/progress`, name: `Go to ${name}` })),
    { href: `${base}/me`, name: 'My account and look' },
    ...(can('set up the programme') ? [{ href: `${base}/set-up`, name: 'Set up the programme' }] : []),
  ];
  return (
    <MenuTrigger>
      <Button
        aria-label={`${initials}, ${viewer.person.name}: menu`}
        className="flex h-[30px] w-[30px] items-center justify-center rounded-full bg-[#40585e] text-[12px] font-bold text-on-deep"
      >
        {initials}
      </Button>
      <Popover className="floats card min-w-[230px] p-1 shadow-float">
        <Menu className="outline-none">
          <MenuSection>
            <Header className="px-3 pt-2 pb-1">
              <b className="block">{viewer.person.name}</b>
              <span className="text-[13px] text-soft">
                {viewer.roles.join(', ')} · {viewer.programme.name}
              </span>
            </Header>
            {places.map(({ href, name }) => (
              <MenuItem key={href} id={href} href={href} className={`block ${ITEM}`}>
                {name}
              </MenuItem>
            ))}
            <MenuItem id="sign-out" className={`${ITEM} border-t border-line-2`} onAction={() => void signOut()}>
              Sign out
            </MenuItem>
          </MenuSection>
        </Menu>
      </Popover>
    </MenuTrigger>
  );
}
