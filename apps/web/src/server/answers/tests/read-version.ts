/** The version that a test's address asks for; the newest when it names none. */
export function readVersion(url: URL): number | undefined {
  const version = Number(url.searchParams.get('version'));
  return Number.isInteger(version) && version > 0 ? version : undefined;
}
