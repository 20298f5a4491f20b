/** A defect as plain text, to be copied into another tracker or a mail. */
export interface PrintableDefect {
  readonly code: string;
  readonly title: string;
  readonly kind: string;
  readonly severity: string;
  readonly priority: string;
  readonly status: string;
  readonly steps: readonly string[];
  readonly expected: string;
  readonly seen: string;
  readonly environment: string;
  readonly browser: string;
  readonly persona: string;
  /** “Acceptance round 2, run 14: From request to first bill (band B)”. */
  readonly run: string;
  readonly baton: readonly { readonly name: string; readonly value: string }[];
  readonly pictures: readonly string[];
}

export function printDefect(defect: PrintableDefect): string {
  const part = (title: string, lines: readonly string[]) =>
    lines.length > 0 ? [`${title}:`, ...lines.map((line) => `  ${line}`), ''] : [];
  const lines = (text: string) => (text === '' ? [] : text.split('\n'));
  return [
    `${defect.code}: ${defect.title}`,
    `${defect.kind}, severity ${defect.severity}, priority ${defect.priority}, ${defect.status}`,
    '',
    ...part('Steps', defect.steps),
    ...part('Expected', lines(defect.expected)),
    ...part('Seen', lines(defect.seen)),
    ...part('Where', [
      ...(defect.environment === '' ? [] : [`Environment ${defect.environment}`]),
      ...(defect.browser === '' ? [] : [defect.browser]),
      ...(defect.persona === '' ? [] : [`As ${defect.persona}`]),
      ...lines(defect.run),
    ]),
    ...part(
      'Baton',
      defect.baton.map(({ name, value }) => `${name}: ${value}`),
    ),
    ...part('Pictures', defect.pictures),
  ]
    .join('\n')
    .trimEnd();
}
