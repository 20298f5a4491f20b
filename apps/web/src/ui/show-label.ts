import type { SyntheticEvent } from 'react';

/** Of many small things each has a label; the browser shows it, as it is by then, once the pointer is there: so it need not stand in the page twice. */
export function showLabel({ target }: SyntheticEvent): void {
  const labelled = (target as Element).closest<HTMLElement>('[aria-label]');
  if (labelled) labelled.title = labelled.ariaLabel ?? '';
}
