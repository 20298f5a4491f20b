import type { FormEvent, ReactNode } from 'react';
import { useState } from 'react';
import { RequestError, toMessage } from '../client/request.ts';

export interface Form {
  readonly isBusy: boolean;
  /** What is wrong on the whole; what belongs to a field is shown there. */
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
  return {
    isBusy,
    onSubmit,
    problem:
      error === null || problems.length > 0
        ? problems.length > 0 && problems.every(({ path }) => path === '')
          ? toMessage(error)
          : null
        : toMessage(error),
    problemOf: (field) => problems.find(({ path }) => path === field || path.startsWith(`${field}.`))?.message,
  };
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
      {form.problem !== null && (
        <p role="alert" className="mb-3 font-semibold text-failed">
          {form.problem}
        </p>
      )}
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
