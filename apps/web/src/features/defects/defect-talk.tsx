import { useChanges } from '../../client/use-changes.ts';
import type { DefectDetail } from '@kindred-baton/contracts/defects/defect';
import { useState } from 'react';
import { Moment } from '../../ui/moment.tsx';
import { toMessage } from '../../client/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';

/** What people say about a defect, oldest first. */
export function DefectTalk({ defect }: { readonly defect: DefectDetail }) {
  const { can } = useProgramme();
  const { change } = useChanges();
  const [text, setText] = useState('');
  const [id, setId] = useState(() => crypto.randomUUID());
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  const say = async () => {
    setProblem(null);
    setIsBusy(true);
    try {
      await change('sayDefect', { params: { code: defect.code }, input: { id, text } });
      // What was typed meanwhile is the next thing to say.
      setText((now) => (now.startsWith(text) ? now.slice(text.length).trimStart() : now));
      setId(crypto.randomUUID());
    } catch (error) {
      setProblem(toMessage(error));
    } finally {
      setIsBusy(false);
    }
  };
  return (
    <section className="card px-5 py-4" aria-labelledby="talk">
      <h2 id="talk" className="mb-2">
        Talk
      </h2>
      {defect.talk.length === 0 && <p className="mb-2 text-[13px] text-soft">Nobody has said anything yet.</p>}
      <ol className="grid gap-3">
        {defect.talk.map((word) => (
          <li key={word.id}>
            <p className="text-[13px] text-soft">
              <b className="text-ink">{word.by}</b>, <Moment at={word.at} />
            </p>
            <p className="whitespace-pre-line">{word.text}</p>
          </li>
        ))}
      </ol>
      {can('log defects') && (
        <form
          className="mt-3 grid gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void say();
          }}
        >
          <textarea className="field" rows={2} aria-label="Say something" value={text} onChange={(event) => setText(event.target.value)} />
          {problem !== null && (
            <p role="alert" className="font-semibold text-failed">
              {problem}
            </p>
          )}
          <span>
            <button type="submit" className="button button-small" disabled={isBusy || text.trim() === ''}>
              Say it
            </button>
          </span>
        </form>
      )}
    </section>
  );
}
