import { toAddress } from '../../../client/call.ts';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import type { JobView } from '@kindred-baton/contracts/jobs/job';
import { DialogBox } from '../../../ui/dialog.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';

const ASK_MS = 600;
const isOver = (job: JobView | undefined) => job !== undefined && job.state !== 'waiting' && job.state !== 'under way';

/** How far work is; it can be stopped, and its file is fetched here. */
export default function JobDialog({ id, onClose }: { readonly id: JobView['id']; readonly onClose: () => void }) {
  const { api } = useProgramme();
  const { act } = useChanges();
  const params = { job: id };
  const { data: job, refetch } = useRead('getJob', { params }, { refetchInterval: ({ state }) => (isOver(state.data) ? false : ASK_MS) });
  const stop = async () => {
    await act('stopJob', { params });
    await refetch();
  };
  return (
    <DialogBox title={titleOf(job)} isOpen onClose={onClose} width={440}>
      <progress
        className="h-2 w-full accent-baton"
        aria-label="How far it is"
        max={Math.max(1, job?.total ?? 1)}
        value={job?.state === 'done' ? job.total : (job?.done ?? 0)}
      />
      <p className="mt-2 mb-4 text-soft" aria-live="polite">
        {describe(job)}
      </p>
      <div className="flex justify-end gap-2">
        {isOver(job) ? (
          <button type="button" className="button" onClick={onClose}>
            Close
          </button>
        ) : (
          <button type="button" className="button" onClick={() => void stop()}>
            Stop
          </button>
        )}
        {job?.state === 'done' && (
          <a className="button button-primary" href={toAddress(api, 'getJobFile', { params })} download>
            Save {job.fileName}
          </a>
        )}
      </div>
    </DialogBox>
  );
}

function titleOf(job: JobView | undefined): string {
  if (job?.state === 'done') return 'The tests are written out';
  if (job?.state === 'failed') return 'The tests could not be written out';
  return job?.state === 'stopped' ? 'Stopped' : 'Writing the tests out';
}

function describe(job: JobView | undefined): string {
  if (!job || job.state === 'waiting') return 'It begins in a moment.';
  if (job.state === 'failed') return job.message ?? 'It failed.';
  if (job.state === 'stopped') return `Stopped after ${job.done} of ${job.total}; nothing is kept.`;
  return `${job.done.toLocaleString('en')} of ${job.total.toLocaleString('en')} tests`;
}
