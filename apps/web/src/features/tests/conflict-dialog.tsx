import type { TestVersionView } from '@kindred-baton/contracts/tests/test';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { DialogBox } from '../../ui/dialog.tsx';
import type { TestDraft } from './test-draft.ts';

interface ConflictDialogProps {
  readonly theirs: TestVersionView;
  readonly mine: TestDraft;
  readonly onTakeTheirs: () => void;
  readonly onKeepMine: () => void;
}

/** Two people edited the same test: both versions side by side, and a plain choice. */
export default function ConflictDialog({ theirs, mine, onTakeTheirs, onKeepMine }: ConflictDialogProps) {
  const ours = mine.steps.map(printStep);
  const others = theirs.steps.map(printStep);
  return (
    <DialogBox title={`${theirs.savedBy ?? 'Somebody'} saved this test meanwhile`} isOpen onClose={onKeepMine} width={980}>
      <div className="grid gap-4 md:grid-cols-2">
        <Side title="What you have" lines={ours} other={others} />
        <Side title={`What ${theirs.savedBy ?? 'somebody'} saved`} lines={others} other={ours} />
      </div>
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <button type="button" className="button" onClick={onTakeTheirs}>
          Take theirs, drop mine
        </button>
        <button type="button" className="button button-primary" onClick={onKeepMine}>
          Keep mine; I save over theirs
        </button>
      </div>
    </DialogBox>
  );
}

function Side({ title, lines, other }: { readonly title: string; readonly lines: readonly string[]; readonly other: readonly string[] }) {
  const known = new Set(other);
  return (
    <section>
      <h3 className="mb-2 font-bold">{title}</h3>
      <ol className="grid gap-1 text-[13px]">
        {lines.map((line, index) => (
          <li key={`${index} ${line}`} className={`rounded-control px-2 py-1 ${known.has(line) ? '' : 'bg-baton-tint text-baton-ink'}`}>
            {index + 1}. {line}
          </li>
        ))}
      </ol>
    </section>
  );
}
