import { useProgramme } from '../frame/programme-context.tsx';

const TO_BE_FIXED = /^((?:Held: )?)((?:[A-Za-z][A-Za-z0-9]*-\d+, )*[A-Za-z][A-Za-z0-9]*-\d+)( must be fixed first.*)$/s;

/** “TQ-203 must be fixed first”: wherever a sentence says so, each code leads to its defect. Any other text stays as it is. */
export function DefectLinks({ text }: { readonly text: string }) {
  const { base } = useProgramme();
  const [, before = '', codes, behind = ''] = TO_BE_FIXED.exec(text) ?? [];
  if (codes === undefined) return text;
  return (
    <>
      {before}
      {codes.split(', ').map((code, index) => (
        <span key={code}>
          {index > 0 && ', '}
          <a className="relative z-10 underline" href={`${base}/defects/${code}`}>
            {code}
          </a>
        </span>
      ))}
      {behind}
    </>
  );
}
