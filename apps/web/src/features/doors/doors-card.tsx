import type { DoorAnswer, DoorView } from '@kindred-baton/contracts/doors/door';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import { DoorDialog } from './door-dialog.tsx';

type Places = Pick<SetUp, 'applications' | 'environments'>;

/** The ways into environments beside their screens: what steps can ask. */
export function DoorsCard({ applications, environments }: Places) {
  const { data } = useRead('listDoors', {});
  const [edited, setEdited] = useState<DoorView | 'new' | null>(null);
  const doors = data?.doors ?? [];
  return (
    <section className="mt-6" aria-label="Doors">
      <h2 className="mb-1 text-[15px] font-bold">Doors</h2>
      <p className="hint mb-2">
        An interface or a database of an application, which steps ask: <i>Ask “GET /bills/7” in “Billing interface”</i>. Named alike in each
        environment, a test asks the one of the environment in which it is done.
      </p>
      {doors.length > 0 && (
        <div className="card overflow-x-auto px-2">
          <table className="grid-table">
            <thead>
              <tr>
                {['Door', 'Environment', 'Application', 'Address', 'Opened by', ''].map((heading) => (
                  <th key={heading} scope="col">
                    {heading}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {doors.map((door) => (
                <DoorRow key={door.id} door={door} places={{ applications, environments }} onEdit={() => setEdited(door)} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="mt-3">
        <button
          type="button"
          className="button"
          onClick={() => setEdited('new')}
          disabled={applications.length === 0 || environments.length === 0}
        >
          Add a door
        </button>
      </p>
      {edited !== null && <DoorDialog door={edited} {...{ applications, environments }} onClose={() => setEdited(null)} />}
    </section>
  );
}

interface DoorRowProps {
  readonly door: DoorView;
  readonly places: Places;
  readonly onEdit: () => void;
}

function DoorRow({ door, places, onEdit }: DoorRowProps) {
  const { act } = useChanges();
  const [answer, setAnswer] = useState<DoorAnswer | 'asking' | null>(null);
  const tryIt = async () => {
    setAnswer('asking');
    setAnswer((await act('tryDoor', { params: { door: door.id } })) ?? null);
  };
  const nameOf = (rows: readonly { readonly id: string; readonly name: string }[], id: string) => rows.find((row) => row.id === id)?.name;
  return (
    <>
      <tr>
        <th scope="row" className="border-b-line-2! text-ink!">
          <button type="button" className="font-bold hover:underline" onClick={onEdit}>
            {door.name}
          </button>
          <span className="block font-normal text-soft">{door.kind}</span>
        </th>
        <td>{nameOf(places.environments, door.environmentId)}</td>
        <td>{nameOf(places.applications, door.applicationId)}</td>
        <td className="max-w-[280px] truncate font-mono text-[13px]" title={door.address}>
          {door.address}
        </td>
        <td className="text-[13px]">{describeOpener(door)}</td>
        <td className="text-right">
          <button
            type="button"
            className="button button-small"
            onClick={() => void tryIt()}
            disabled={answer === 'asking'}
            aria-label={`Try ${door.name} in ${nameOf(places.environments, door.environmentId)}`}
          >
            {answer === 'asking' ? 'Trying …' : 'Try it'}
          </button>
        </td>
      </tr>
      {answer !== null && answer !== 'asking' && (
        <tr>
          <td colSpan={6}>
            <div role="status" className={answer.isAnswered ? '' : 'font-semibold text-failed'}>
              {answer.isAnswered ? <DoorAnswerText text={answer.text} /> : answer.text}
            </div>
          </td>
        </tr>
      )}
    </>
  );
}

/** An answer as it came, to be read and copied. */
export function DoorAnswerText({ text }: { readonly text: string }) {
  return (
    <pre
      aria-label="The answer"
      className="max-h-[260px] overflow-auto rounded-control bg-band px-3 py-2 font-mono text-[12px] whitespace-pre-wrap"
    >
      {text}
    </pre>
  );
}

function describeOpener({ kind, signIn, userName, hasSecret }: DoorView): string {
  const secret = hasSecret ? '' : ', secret not set';
  if (kind === 'database') return `${userName} with a password${hasSecret ? '' : ' that is not set'}`;
  if (signIn === 'none') return 'nothing';
  if (signIn === 'bearer') return `a bearer token${secret}`;
  return signIn === 'basic' ? `${userName} with a password${secret}` : `${userName} in the header${secret}`;
}
