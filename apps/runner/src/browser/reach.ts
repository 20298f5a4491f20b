/** Which addresses a runner may ask: the origins of its environments. */
export interface Reach {
  readonly allows: (address: string) => boolean;
}

const OWN = new Set(['data:', 'blob:', 'about:']);

/** Allows the origins of some addresses, and what a page makes by itself. Every request is asked about, each step of a redirect too. */
export function createReach(addresses: readonly string[]): Reach {
  const origins = new Set(addresses.map((address) => new URL(address).origin));
  return {
    allows: (address) => {
      if (!URL.canParse(address)) return false;
      const { origin, protocol } = new URL(address);
      return OWN.has(protocol) || origins.has(origin);
    },
  };
}
