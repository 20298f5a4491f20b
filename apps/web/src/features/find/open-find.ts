/** Find is opened from the top bar and by Ctrl K; whoever shows it listens for this. */
export const OPEN_FIND = 'kindred-baton-open-find';

export function openFind(): void {
  dispatchEvent(new Event(OPEN_FIND));
}
