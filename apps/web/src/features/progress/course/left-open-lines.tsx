import type { LeftOpen } from '@kindred-baton/contracts/progress/outlook';
import { countOf } from '../../../ui/format.ts';
import { useProgramme } from '../../frame/programme-context.tsx';

/** What leaving out leaves open, each by its code. */
export function LeftOpenLines({ left: { requirements, nodes } }: { readonly left: LeftOpen }) {
  const { base } = useProgramme();
  if (requirements.total + nodes.total === 0)
    return <span className="block text-soft">leaves no requirement without a test and no critical process with less</span>;
  return (
    <span className="block text-[13px]">
      {requirements.total > 0 && (
        <Some
          words={`leaves ${countOf(requirements.total, 'requirement')} without a turn that could show ${requirements.total === 1 ? 'it' : 'them'}`}
          of={requirements}
          toPath={(code) => `${base}/requirements?requirement=${encodeURIComponent(code)}`}
        />
      )}
      {nodes.total > 0 && (
        <Some
          words={`${countOf(nodes.total, 'critical process', 'critical processes')} not signed off would be tested less`}
          of={nodes}
          toPath={(code) => `${base}/map?node=${encodeURIComponent(code)}`}
        />
      )}
    </span>
  );
}

interface SomeProps {
  readonly words: string;
  readonly of: LeftOpen['nodes'];
  readonly toPath: (code: string) => string;
}

const Some = ({ words, of: { total, first }, toPath }: SomeProps) => (
  <span className="block">
    {words}:{' '}
    {first.map(({ code, title }) => (
      <a key={code} className="mr-1.5 inline-block min-h-[24px] underline" title={title} href={toPath(code)}>
        {code}
      </a>
    ))}
    {total > first.length && `and ${(total - first.length).toLocaleString('en')} more`}
  </span>
);
