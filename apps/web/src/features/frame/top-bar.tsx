import Bug from 'lucide-react/icons/bug';
import CalendarCheck from 'lucide-react/icons/calendar-check';
import ChartNoAxesGantt from 'lucide-react/icons/chart-no-axes-gantt';
import Hand from 'lucide-react/icons/hand';
import ListChecks from 'lucide-react/icons/list-checks';
import Network from 'lucide-react/icons/network';
import Search from 'lucide-react/icons/search';
import Waypoints from 'lucide-react/icons/waypoints';
import { toInitials } from '../../ui/format.ts';
import { openFind } from '../find/open-find.ts';
import { useAddress } from './address-context.tsx';
import { MeMenu } from './me-menu.tsx';
import { useProgramme } from './programme-context.tsx';

/** The areas in the order of the work. */
const AREAS = [
  { key: 'map', name: 'Map', Icon: Network },
  { key: 'tests', name: 'Tests', Icon: ListChecks },
  { key: 'scenarios', name: 'Scenarios', Icon: Waypoints },
  { key: 'cycles', name: 'Cycles', Icon: CalendarCheck },
  { key: 'turns', name: 'Turns', Icon: Hand },
  { key: 'defects', name: 'Defects', Icon: Bug },
  { key: 'progress', name: 'Progress', Icon: ChartNoAxesGantt },
] as const;

export type Area = (typeof AREAS)[number]['key'];

export function TopBar({ area }: { readonly area: Area | null }) {
  const { base, viewer } = useProgramme();
  const { withScope } = useAddress();
  return (
    <header className="no-print sticky top-0 z-30 flex h-[52px] items-stretch gap-1 bg-deep px-3 text-on-deep sm:px-4">
      <a
        href={withScope(`${base}/progress`)}
        className="mr-2 flex items-center gap-2.5 rounded-control font-bold lg:mr-5"
        aria-label={`Kindred Baton, ${viewer.programme.name}`}
      >
        <BatonLogo />
        <span className="hidden text-[15px] lg:inline">Kindred Baton</span>
      </a>
      <nav aria-label="Areas" className="flex min-w-0 items-stretch overflow-x-auto">
        {AREAS.map(({ key, name, Icon }) => (
          <a
            key={key}
            href={withScope(`${base}/${key}`)}
            aria-current={key === area ? 'page' : undefined}
            className={`flex items-center gap-2 border-b-4 px-2.5 pt-1 text-[15px] xl:px-3 ${key === area ? 'border-baton font-bold' : 'border-transparent hover:border-[#3d5b62]'}`}
          >
            <Icon size={18} aria-hidden className="flex-none" />
            <span className="hidden md:inline">{name}</span>
            <span className="sr-only md:hidden">{name}</span>
          </a>
        ))}
      </nav>
      <div className="ml-auto flex items-center gap-3">
        <button
          type="button"
          onClick={openFind}
          className="flex h-[30px] items-center gap-2 rounded-control border border-[#3d5b62] px-2.5 hover:border-on-deep"
        >
          <Search size={16} aria-hidden />
          <span className="hidden xl:inline">Find</span>
          <span className="sr-only xl:hidden">Find</span>
          <kbd className="hidden font-mono text-[12px] text-[#b9c8ca] xl:inline">Ctrl K</kbd>
        </button>
        <MeMenu initials={toInitials(viewer.person.name)} />
      </div>
    </header>
  );
}

function BatonLogo() {
  return (
    <svg width="30" height="22" viewBox="0 0 30 22" aria-hidden className="flex-none">
      <rect x="1" y="3" width="19" height="6.4" rx="3.2" fill="#F2B544" transform="rotate(-12 10.5 6.2)" />
      <rect x="9" y="12" width="19" height="6.4" rx="3.2" fill="#F4F1E9" transform="rotate(-12 18.5 15.2)" />
    </svg>
  );
}
