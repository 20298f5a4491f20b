import { leaveTo } from '../../client/leave-to.ts';
import { sendJson, toMessage } from '../../client/request.ts';
import { useNotice } from '../../ui/notices.tsx';
import { useProgramme } from './programme-context.tsx';

const ITEM = 'block w-full cursor-pointer rounded-control px-3 py-1.5 text-left hover:bg-band';
const ID = 'me-menu';

/**
 * Who one is, where else one belongs, one's account (with the look), and for who may the set-up. The browser's own popover opens it, also before
 * the page is awake, and closes it by Esc or a press beside it.
 */
export function MeMenu({ initials }: { readonly initials: string }) {
  const { viewer, base, can } = useProgramme();
  const notify = useNotice();
  const signOut = () =>
    sendJson('POST', '/api/auth/sign-out', {}).then(
      () => leaveTo('/sign-in'),
      (error: unknown) => notify({ kind: 'problem', text: `You are still signed in. ${toMessage(error)}` }),
    );
  const places = [
    ...viewer.programmes
      .filter(({ key }) => key !== viewer.programme.key)
      .map(({ key, name }) => ({ href: `/${key}/progress`, name: `Go to ${name}` })),
    { href: `${base}/me`, name: 'My account and look' },
    ...(can('set up the programme') ? [{ href: `${base}/set-up`, name: 'Set up the programme' }] : []),
  ];
  return (
    <>
      <button
        type="button"
        popoverTarget={ID}
        aria-label={`${initials}, ${viewer.person.name}: menu`}
        className="flex h-[30px] w-[30px] items-center justify-center rounded-full bg-[#40585e] text-[12px] font-bold text-on-deep"
      >
        {initials}
      </button>
      <nav
        id={ID}
        popover="auto"
        aria-label="Account"
        className="floats card fixed inset-auto top-[48px] right-[16px] m-0 min-w-[230px] p-1 text-ink shadow-float"
      >
        <p className="px-3 pt-2 pb-1">
          <b className="block">{viewer.person.name}</b>
          <span className="text-[13px] text-soft">
            {viewer.roles.join(', ')} · {viewer.programme.name}
          </span>
        </p>
        <ul>
          {places.map(({ href, name }) => (
            <li key={href}>
              <a href={href} className={ITEM}>
                {name}
              </a>
            </li>
          ))}
          <li className="border-t border-line-2">
            <button type="button" className={ITEM} onClick={() => void signOut()}>
              Sign out
            </button>
          </li>
        </ul>
      </nav>
    </>
  );
}
