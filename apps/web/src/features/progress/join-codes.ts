/** Several cycles as an address has them. */
export const joinCodes = ({ chosen }: { readonly chosen: readonly { readonly code: string }[] }): string =>
  chosen.map(({ code }) => code).join(',');
