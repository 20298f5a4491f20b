import { Pages } from '../../ui/pages.tsx';
import { useAddress } from './address-context.tsx';

interface PagesOfProps {
  /** What is paged: “Runs”. */
  readonly noun: string;
  /** The page that is shown, the place of its first entry, and how many there are in all. */
  readonly at: { readonly page: number; readonly from: number; readonly size: number };
  readonly shown: number;
  /** The name that the page has in the address. */
  readonly param: string;
}

/** The pages of a list whose page stands in the address. */
export function PagesOf({ noun, at, shown, param }: PagesOfProps) {
  const address = useAddress();
  const go = (to: number) => address.set({ [param]: to === 1 ? null : String(to) });
  return (
    <Pages
      {...{ noun, from: at.from, to: at.from + shown - 1, size: at.size }}
      onBefore={() => go(at.page - 1)}
      onNext={() => go(at.page + 1)}
    />
  );
}
