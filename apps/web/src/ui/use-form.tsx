import type { FormEvent, ReactNode } from 'react';
import { useState } from 'react';
import { RequestError, toMessage } from '../client/request.ts';

export interface Form {
  readonly isBusy: boolean;
  /** What is wrong and shown beside no field; to be read after the fields have been drawn. */
  readonly problem: string | null;
  readonly problemOf: (field: string) => string | undefined;
  readonly onSubmit: (event: FormEvent<HTMLFormElement>) => void;
}

/** A form that sends its fields and shows the server's problems beside them; what was typed stays. */
export function useForm(send: (values: Readonly<Record<string, string>>) => Promise<void>): Form {
  const [isBusy, setIsBusy] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const problems = error instanceof RequestError ? error.problems : [];
  const onSubmit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const entries = [...new FormData(event.currentTarget)].flatMap(([name, value]) =>
      typeof value === 'string' ? [[name, value] as const] : [],
    );
    setIsBusy(true);
    setError(null);
    send(Object.fromEntries(entries))
      .catch(setError)
      .finally(() => setIsBusy(false));
  };
  // Fields say which problems they show; what none of them shows is told at the foot, and so no word of the server is lost.
  const shown = new Set<string>();
  return {
    isBusy,
    onSubmit,
    problemOf: (field) => {
      shown.add(field);
      return problems.find(({ path }) => isWithin(path, field))?.message;
    },
    get problem() {
      if (error === null) return null;
      if (problems.length === 0) return toMessage(error);
      const left = problems.filter(({ path }) => ![...shown].some((field) => isWithin(path, field)));
      return left.length === 0 ? null : left.map(({ path, message }) => (path === '' ? message : `${path}: ${message}`)).join(' ');
    },
  };
}

const isWithin = (path: string, field: string) => path === field || path.startsWith(`${field}.`);

/** What is shown beside no field. Drawn after the fields, so that each has said what it shows. */
export function FormProblem({ form }: { readonly form: Form }) {
  const { problem } = form;
  return (
    problem !== null && (
      <p role="alert" className="mb-3 font-semibold text-failed">
        {problem}
      </p>
    )
  );
}

interface FormFootProps {
  readonly form: Form;
  readonly label: string;
  readonly onCancel: () => void;
  /** What else can be done, at the left. */
  readonly children?: ReactNode;
}

export function FormFoot({ form, label, onCancel, children }: FormFootProps) {
  return (
    <>
      <FormProblem form={form} />
      <div className="flex justify-end gap-2">
        {children !== undefined && <span className="mr-auto">{children}</span>}
        <button type="button" className="button" onClick={onCancel}>
          Cancel
        </button>
        <button type="submit" className="button button-primary" disabled={form.isBusy}>
          {form.isBusy ? 'Saving …' : label}
        </button>
      </div>
    </>
  );
}
