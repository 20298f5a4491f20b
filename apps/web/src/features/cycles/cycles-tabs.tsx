import { useProgramme } from '../frame/programme-context.tsx';
import { useAddress } from '../frame/address-context.tsx';

const PLACES = [
  { key: 'cycles', name: 'All cycles' },
  { key: 'runners', name: 'Runners' },
] as const;

/** What stands under Cycles: the cycles themselves, and the machines that do turns. */
export function CyclesTabs({ place }: { readonly place: (typeof PLACES)[number]['key'] }) {
  const { base } = useProgramme();
  const { withScope } = useAddress();
  return (
    <nav aria-label="Cycles and runners" className="no-print mb-3 flex flex-wrap gap-1">
      {PLACES.map(({ key, name }) => (
        <a
          key={key}
          href={withScope(`${base}/${key}`)}
          aria-current={key === place ? 'page' : undefined}
          className={`button button-small ${key === place ? 'border-ink! font-bold' : 'button-quiet'}`}
        >
          {name}
        </a>
      ))}
    </nav>
  );
}
