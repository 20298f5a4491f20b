import { fromForm } from '../../client/call.ts';
import { listTopics } from '../../client/stale.ts';
import { askAgain, useChanges } from '../../client/use-changes.ts';
import { toKey, useRead } from '../../client/use-read.ts';
import { call } from '../../client/call.ts';
import type { DrawnTestView, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { Chain, LegView } from '@kindred-baton/core/scenarios/chain';
import { toLegView, toTestKey } from '@kindred-baton/core/scenarios/draw-legs';
import type { LegChange, ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { editScenario } from '@kindred-baton/core/scenarios/edit-scenario';
import type { Finding } from '@kindred-baton/core/scenarios/findings/finding';
import { findFindings } from '@kindred-baton/core/scenarios/findings/rules';
import type { LegDocument } from '@kindred-baton/core/scenarios/scenario-document';
import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { useNotice } from '../../ui/notices.tsx';
import { useEditing } from '../../ui/use-editing.ts';
import { useProgramme } from '../frame/programme-context.tsx';

/** A leg with all that is shown of it. */
export interface DrawnLeg {
  readonly id: string;
  /** 0-based. */
  readonly index: number;
  readonly document: LegDocument;
  readonly view: LegView;
  readonly title: string;
  readonly test: DrawnTestView | null;
  readonly team: { readonly id: string; readonly name: string } | null;
}

interface Drawn {
  readonly legs: readonly DrawnLeg[];
  readonly chain: Chain;
  readonly findings: readonly Finding[];
}

function drawScenario({ document, tests, teams, isInOpenCycle }: ScenarioDetail): Drawn {
  const nameOf = new Map(teams.map(({ id, name }) => [id, name]));
  const legs = document.legs.map((leg, index): DrawnLeg => {
    const test = tests[toTestKey(leg) ?? ''] ?? null;
    const view = toLegView(leg, test ?? undefined);
    const name = view.team ? nameOf.get(view.team) : undefined;
    return {
      ...{ id: leg.id, index, document: leg, view, title: view.title, test },
      team: view.team && name !== undefined ? { id: view.team, name } : null,
    };
  });
  const chain = wireChain(
    legs.map(({ view }) => view),
    document.columns,
  );
  return { legs, chain, findings: findFindings({ chain, isInOpenCycle, data: document }) };
}

/** A scenario that is being edited: each edit shows at once, goes to the server, and is rolled back with a reason if refused. */
export function useScenario(initial: ScenarioDetail) {
  const { api, can } = useProgramme();
  const notify = useNotice();
  const client = useQueryClient();
  const { act } = useChanges();
  const params = useMemo(() => ({ code: initial.code }), [initial.code]);
  const key = useMemo(() => toKey('getScenario', { params }), [params]);
  const { data = initial } = useRead('getScenario', { params }, { initialData: initial });
  const drawn = useMemo(() => drawScenario(data), [data]);

  const show = useCallback(
    (edits: readonly ScenarioEdit[]) => {
      const now = client.getQueryData<ScenarioDetail>(key) ?? data;
      const edited = editScenario(now.document, edits);
      if (!edited.ok) return edited.message;
      void client.cancelQueries({ queryKey: key, exact: true });
      client.setQueryData<ScenarioDetail>(key, { ...now, document: edited.document as ScenarioDetail['document'] });
      return null;
    },
    [client, key, data],
  );
  const send = useCallback(
    (edits: readonly ScenarioEdit[]) => call(api, 'editScenario', { params, input: fromForm({ edits }) }),
    [api, params],
  );
  const ask = useCallback(() => void askAgain(client, listTopics('editScenario')), [client]);
  const { run, undo, redo } = useEditing<ScenarioEdit>({ show, send, ask });

  /** Changes a leg, unless somebody else has changed the same of it meanwhile. */
  const changeLeg = (leg: DrawnLeg, change: LegChange) => {
    const was = Object.fromEntries(Object.keys(change).map((name) => [name, leg.document[name as keyof LegDocument]])) as LegChange;
    return run([{ kind: 'change leg', leg: leg.id, change, was }]);
  };
  const removeLeg = async (leg: DrawnLeg) => {
    if (await run([{ kind: 'remove leg', leg: leg.id }]))
      notify({ kind: 'done', text: `${leg.title} is taken out. Ctrl Z brings it back.` });
  };
  const change = async (fields: { name?: string; state?: ScenarioDetail['state'] }) => {
    if (!(await act('changeScenario', { params, input: fields }))) ask();
  };
  return { scenario: data, params, ...drawn, run, undo, redo, changeLeg, removeLeg, change, canEdit: can('edit scenarios') };
}

export type ScenarioEditor = ReturnType<typeof useScenario>;
