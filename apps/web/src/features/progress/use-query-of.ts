import { useAddress } from '../frame/address-context.tsx';

interface QueryOf {
  readonly input: Record<string, string>;
  /** It is what the page came with. */
  readonly isFirst: boolean;
}

/** What of the address a read is asked with. */
export function useQueryOf(names: readonly string[], initialAddress: string): QueryOf {
  const { get } = useAddress();
  const first = new URLSearchParams(initialAddress.split('?')[1]);
  const read = (from: (name: string) => string | null) =>
    Object.fromEntries(
      names.flatMap((name) => {
        const value = from(name);
        return value === null ? [] : [[name, value]];
      }),
    ) as Record<string, string>;
  const input = read(get);
  return { input, isFirst: JSON.stringify(input) === JSON.stringify(read((name) => first.get(name))) };
}
