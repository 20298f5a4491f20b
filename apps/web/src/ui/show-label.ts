import type { SyntheticEvent } from 'react';

/** Of many small things each has a label; the browser shows it as a title once the pointer is there, so that it need not stand in the page twice. */
export function showLabel({ target }: SyntheticEvent): void {
  const labelled = (target as Element).closest<HTMLElement>('[aria-label]');
  if (labelled && labelled.title === '') labelled.title = labelled.ariaLabel ?? '';
}
