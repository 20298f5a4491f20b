/** Goes to another page. */
export function leaveTo(path: string): void {
  location.href = path;
}
