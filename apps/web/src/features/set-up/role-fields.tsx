import type { Role } from '@kindred-baton/core/programmes/roles';
import { ROLES } from '@kindred-baton/core/programmes/roles';

const LABELS: Readonly<Record<Role, string>> = {
  administrator: 'sets up, and sees who did what',
  lead: 'plans and steers cycles',
  author: 'writes tests and scenarios',
  tester: 'makes turns',
  owner: 'signs off own processes',
  observer: 'looks on',
};

interface RoleFieldsProps {
  readonly roles: readonly Role[];
  readonly onChange: (roles: Role[]) => void;
  readonly problem?: string | undefined;
}

export function RoleFields({ roles, onChange, problem }: RoleFieldsProps) {
  return (
    <fieldset className="mb-3">
      <legend className="label">Roles</legend>
      <div className="grid gap-x-4 sm:grid-cols-2">
        {ROLES.map((role) => (
          <label key={role} className="flex min-h-[26px] items-center gap-2">
            <input
              type="checkbox"
              checked={roles.includes(role)}
              onChange={(event) => onChange(event.target.checked ? [...roles, role] : roles.filter((own) => own !== role))}
            />
            {role} <span className="text-[13px] text-soft">{LABELS[role]}</span>
          </label>
        ))}
      </div>
      {problem !== undefined && <p className="mt-1 text-[13px] font-semibold text-failed">{problem}</p>}
    </fieldset>
  );
}
