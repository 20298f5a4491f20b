/** The PostgreSQL server that npm test started. */
export function getServerUrl(): string {
  const url = process.env['KINDRED_BATON_TEST_SERVER'];
  if (!url) throw new Error('KINDRED_BATON_TEST_SERVER is not set: run the tests with npm test.');
  return url;
}

export function toDatabaseUrl(database: string): string {
  const url = new URL(getServerUrl());
  url.pathname = `/${database}`;
  return url.toString();
}
