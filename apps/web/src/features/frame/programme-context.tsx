import type { Severity } from '@kindred-baton/core/defects/defect';
import { nameSeverity } from '@kindred-baton/core/defects/defect';
import type { Right } from '@kindred-baton/core/programmes/roles';
import type { Viewer } from '@kindred-baton/contracts/programmes/programme';
import { createContext, useContext, useEffect, useMemo, useState } from 'react';
import type { ReactNode } from 'react';

export interface Programme {
  readonly viewer: Viewer;
  readonly timeZone: string;
  /** /brindlemere */
  readonly base: string;
  /** /api/brindlemere */
  readonly api: string;
  readonly can: (right: Right) => boolean;
  /** A severity by this programme's word for it. */
  readonly nameOf: (severity: Severity) => string;
  /** The browser's clock, moved on every half minute. */
  readonly nowMs: number;
}

const ProgrammeContext = createContext<Programme | null>(null);

const TICK_MS = 30_000;

interface ProgrammeProviderProps {
  readonly viewer: Viewer;
  /** Where the server is asked; left out: as a member of the programme. */
  readonly api?: string | undefined;
  readonly children: ReactNode;
}

export function ProgrammeProvider({ viewer, api, children }: ProgrammeProviderProps) {
  const [nowMs, setNowMs] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNowMs(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  const programme = useMemo(
    () => ({
      ...{ viewer, nowMs, timeZone: viewer.programme.timeZone },
      base: `/${viewer.programme.key}`,
      api: api ?? `/api/${viewer.programme.key}`,
      can: (right: Right) => viewer.rights.includes(right),
      nameOf: (severity: Severity) => nameSeverity(severity, viewer.programme.severityNames),
    }),
    [viewer, api, nowMs],
  );
  return <ProgrammeContext value={programme}>{children}</ProgrammeContext>;
}

export function useProgramme(): Programme {
  const programme = useContext(ProgrammeContext);
  if (!programme) throw new Error('Outside the frame.');
  return programme;
}
