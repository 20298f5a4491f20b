import type { InputHTMLAttributes, ReactNode, SelectHTMLAttributes, TextareaHTMLAttributes } from 'react';
import { useId } from 'react';

interface FieldFrame {
  readonly label: string;
  readonly hint?: string | undefined;
  readonly problem?: string | undefined;
}

/** A label, a control, and beneath it what is wrong or what helps. */
function Framed({ label, hint, problem, id, children }: FieldFrame & { readonly id: string; readonly children: ReactNode }) {
  return (
    <div className="mb-3">
      <label className="label" htmlFor={id}>
        {label}
      </label>
      {children}
      {problem !== undefined && (
        <p id={`${id}-problem`} className="mt-1 text-[13px] font-semibold text-failed">
          {problem}
        </p>
      )}
      {problem === undefined && hint !== undefined && (
        <p id={`${id}-hint`} className="hint mt-1">
          {hint}
        </p>
      )}
    </div>
  );
}

const describe = (id: string, { hint, problem }: FieldFrame) => ({
  id,
  'aria-invalid': problem !== undefined,
  'aria-describedby': problem !== undefined ? `${id}-problem` : hint !== undefined ? `${id}-hint` : undefined,
});

export function TextField({ label, hint, problem, ...input }: FieldFrame & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId();
  return (
    <Framed {...{ label, hint, problem, id }}>
      <input className="field" {...input} {...describe(id, { label, hint, problem })} />
    </Framed>
  );
}

export function TextArea({ label, hint, problem, ...input }: FieldFrame & TextareaHTMLAttributes<HTMLTextAreaElement>) {
  const id = useId();
  return (
    <Framed {...{ label, hint, problem, id }}>
      <textarea className="field" rows={3} {...input} {...describe(id, { label, hint, problem })} />
    </Framed>
  );
}

export function SelectField({ label, hint, problem, children, ...input }: FieldFrame & SelectHTMLAttributes<HTMLSelectElement>) {
  const id = useId();
  return (
    <Framed {...{ label, hint, problem, id }}>
      <select className="field" {...input} {...describe(id, { label, hint, problem })}>
        {children}
      </select>
    </Framed>
  );
}
