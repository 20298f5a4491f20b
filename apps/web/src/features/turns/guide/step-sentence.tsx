import type { Step } from '@kindred-baton/core/tests/step';
import { getActionFacts } from '@kindred-baton/core/tests/step';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { TemplateSource } from '@kindred-baton/core/values/template';
import { fillTemplate, parseTemplate } from '@kindred-baton/core/values/template';
import { Fragment } from 'react';

/** A step in large type, its target underlined; values by name, since they stand below to be copied. */
export function StepSentence({ step, handed }: { readonly step: Step; readonly handed: ReadonlySet<string> }) {
  return (
    <h2 className="text-[19px] leading-7">
      {step.optional && <span className="font-normal text-soft">Optional: </span>}
      {step.as !== undefined && <span className="font-normal text-soft">As {step.as}: </span>}
      {step.do === 'hand' ? (
        step.target
      ) : (
        <>
          {getActionFacts(step.do).word} <span className="border-b-[3px] border-baton">{step.target}</span>
        </>
      )}
      {step.within !== undefined && <> in {step.within}</>}
      {step.beside !== undefined && <>, beside {step.beside}</>}
      {step.check !== undefined && <>, {step.check}</>}
      {step.value !== undefined && (
        <>
          {' '}
          {step.check === undefined && getActionFacts(step.do).valueWord} {nameValue(step.value, handed)}
        </>
      )}
      {step.seconds !== undefined && <>, within {step.seconds} seconds</>}
    </h2>
  );
}

/** What was handed over is named so: the tester knows that it is not hers to make up. */
function nameValue(template: string, handed: ReadonlySet<string>): string {
  const parts = parseTemplate(template);
  const [only] = parts;
  if (parts.length === 1 && only?.kind === 'name' && handed.has(toNameKey(only.name))) return `the ${only.name} handed to you`;
  return parts
    .map((part) => {
      if (part.kind === 'text') return part.text;
      if (part.kind === 'name') return part.name;
      return part.kind === 'new' ? 'a new value' : 'this day';
    })
    .join('');
}

/** What should be seen, the values in it in bold. */
export function Expected({ template, source }: { readonly template: string; readonly source: TemplateSource }) {
  return (
    <>
      {parseTemplate(template).map((part, index) =>
        part.kind === 'text' ? (
          <Fragment key={index}>{part.text}</Fragment>
        ) : (
          <b key={index}>
            {part.kind === 'name'
              ? (source.valueOf(part.name) ?? `{${part.name}}`)
              : fillTemplate(part.kind === 'new' ? `{new ${part.pattern}}` : toDayPlace(part), source)}
          </b>
        ),
      )}
    </>
  );
}

function toDayPlace(part: { readonly offset: number; readonly working: boolean }): string {
  return `{today ${part.offset < 0 ? '-' : '+'} ${Math.abs(part.offset)} ${part.working ? 'working ' : ''}days}`;
}
