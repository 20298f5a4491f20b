import { parseTemplate } from '@kindred-baton/core/values/template';

/** A template with its names as chips. */
export function TemplateText({ template, isPlain = false }: { readonly template: string; readonly isPlain?: boolean }) {
  return (
    <>
      {parseTemplate(template).map((part, index) =>
        part.kind === 'name' ? (
          <span key={index} className="baton-chip">
            {part.name}
          </span>
        ) : (
          <span key={index} className={isPlain ? '' : 'font-mono text-[13px]'}>
            {part.kind === 'text'
              ? part.text
              : part.kind === 'new'
                ? `new ${part.pattern}`
                : `today ${part.offset < 0 ? '−' : '+'} ${Math.abs(part.offset)} ${part.working ? 'working ' : ''}days`}
          </span>
        ),
      )}
    </>
  );
}
