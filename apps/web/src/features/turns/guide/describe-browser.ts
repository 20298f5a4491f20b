const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg\/(\d+)/, 'Edge'],
  [/Firefox\/(\d+)/, 'Firefox'],
  [/Chrom(?:e|ium)\/(\d+)/, 'Chromium'],
  [/Version\/(\d+).*Safari/, 'Safari'],
];

const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux|X11/, 'Linux'],
];

/** “Chromium 156 on Linux”, from what the browser says of itself. */
export function describeBrowser(userAgent: string): string {
  const browser = BROWSERS.map(([pattern, name]) => ({ name, version: pattern.exec(userAgent)?.[1] })).find(
    ({ version }) => version !== undefined,
  );
  const system = SYSTEMS.find(([pattern]) => pattern.test(userAgent))?.[1];
  return `${browser ? `${browser.name} ${browser.version}` : 'Unknown browser'}${system ? ` on ${system}` : ''}`;
}
