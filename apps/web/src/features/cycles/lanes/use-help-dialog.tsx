import type { CyclePlanView } from '@kindred-baton/contracts/cycles/plan';
import type { PlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import { DialogBox } from '../../../ui/dialog.tsx';
import { SelectField, TextArea } from '../../../ui/field.tsx';
import { formatDay } from '../../../ui/format.ts';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { describeChange, toPlanDay } from './describe-fit.ts';
import type { FitPlan } from './use-plan.ts';

interface UseHelpDialogProps {
  readonly view: CyclePlanView;
  readonly fit: FitPlan;
  readonly tried: readonly PlanChange[];
  readonly onTry: (changes: readonly PlanChange[]) => void;
  readonly onUse: (changes: readonly PlanChange[], why: string) => Promise<void>;
  readonly onClose: () => void;
}

/** What is tried is done: “one more tester” is a person by name here, and what is left out has its reason. */
export function UseHelpDialog({ view, fit, tried, onTry, onUse, onClose }: UseHelpDialogProps) {
  const form = useForm(async ({ why = '' }) => {
    await onUse(tried, why);
    onClose();
  });
  const isOpenEnded = tried.some(({ kind }) => kind === 'more people');
  return (
    <DialogBox title="Use it" isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <ul className="mb-3 grid gap-1">
          {tried.map((change) => (
            <li key={JSON.stringify(change)}>{describeChange(view, change)}</li>
          ))}
        </ul>
        {tried.map((change, index) =>
          change.kind === 'more people' ? <WhoJoins key={change.lane} {...{ view, tried, change, index, onTry }} /> : null,
        )}
        {tried.some(({ kind }) => kind === 'leave out') && (
          <TextArea label="Why are runs left out?" name="why" rows={2} maxLength={2_000} required problem={form.problemOf('staff.why')} />
        )}
        <p className="hint mb-3">
          Turns go to people, and get due days, as this plan has them
          {fit.tried && `: it finishes ${formatDay(toPlanDay(view, fit.tried.finish))}`}.
        </p>
        {isOpenEnded ? <p className="font-semibold">Say first who joins.</p> : <FormFoot form={form} label="Use it" onCancel={onClose} />}
      </form>
    </DialogBox>
  );
}

interface WhoJoinsProps extends Pick<UseHelpDialogProps, 'view' | 'tried' | 'onTry'> {
  readonly change: Extract<PlanChange, { kind: 'more people' }>;
  readonly index: number;
}

/** Each choice takes the place of one of the testers who are wanted, and the plan is made again with her hours. */
function WhoJoins({ view, tried, change, index, onTry }: WhoJoinsProps) {
  const { base } = useProgramme();
  const team = view.teams.find(({ id }) => id === change.lane)?.name ?? '';
  const joining = new Set(tried.flatMap((other) => (other.kind === 'join lane' && other.lane === change.lane ? [other.person] : [])));
  const others = view.people.filter(({ id, teams }) => !teams.includes(change.lane) && !joining.has(id));
  const choose = (person: string) => {
    const left = change.count > 1 ? [{ ...change, count: change.count - 1 }] : [];
    onTry([...tried.slice(0, index), { kind: 'join lane', person, lane: change.lane }, ...left, ...tried.slice(index + 1)]);
  };
  return (
    <>
      <SelectField
        label={`Who joins ${team}?`}
        hint={change.count > 1 ? `${change.count} are still wanted.` : undefined}
        value=""
        onChange={(event) => event.target.value !== '' && choose(event.target.value)}
      >
        <option value="">choose</option>
        {others.map(({ id, name, teams }) => (
          <option key={id} value={id}>
            {name} (
            {view.teams
              .filter((own) => teams.includes(own.id))
              .map((own) => own.name)
              .join(', ')}
            )
          </option>
        ))}
      </SelectField>
      <p className="mb-3 text-[13px]">
        Somebody new?{' '}
        <a className="underline" href={`${base}/set-up?view=people`}>
          Invite a tester
        </a>{' '}
        into the team; then this plan follows.
      </p>
    </>
  );
}
