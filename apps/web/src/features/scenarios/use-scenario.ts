import type { AddLeg, ChangeLeg, ChangeScenario, LegDetail, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { LegId } from '@kindred-baton/core/ids';
import { findFindings } from '@kindred-baton/core/scenarios/findings/rules';
import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useNotice } from '../../ui/notices.tsx';
import { getJson, sendJson, toMessage } from '../../ui/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';

function wireScenario(scenario: Pick<ScenarioDetail, 'legs' | 'columns' | 'isInOpenCycle'>) {
  const legs = scenario.legs.map((leg) => ({
    ...leg,
    isOpen: leg.test === null,
    after: leg.after ?? undefined,
    place: leg.place ?? undefined,
  }));
  const chain = wireChain(legs, scenario.columns);
  return { chain, findings: findFindings({ chain, isInOpenCycle: scenario.isInOpenCycle }) };
}

function placeBefore(legs: readonly LegDetail[], id: string, before: string | null): LegDetail[] {
  const leg = legs.find((candidate) => candidate.id === id);
  if (!leg) return [...legs];
  const others = legs.filter((candidate) => candidate.id !== id);
  const at = before === null ? others.length : others.findIndex((candidate) => candidate.id === before);
  return [...others.slice(0, at < 0 ? others.length : at), leg, ...others.slice(at < 0 ? others.length : at)];
}

/** A scenario that is being edited: each edit shows at once, goes to the server, and is rolled back with a reason if refused. */
export function useScenario(initial: ScenarioDetail) {
  const { api } = useProgramme();
  const notify = useNotice();
  const client = useQueryClient();
  const path = `${api}/scenarios/${initial.code}`;
  const key = useMemo(() => ['scenarios', initial.code], [initial.code]);
  const { data } = useQuery({ queryKey: key, queryFn: () => getJson<ScenarioDetail>(path), initialData: initial });
  const wiring = useMemo(() => wireScenario(data), [data]);

  const edit = async (change: (before: ScenarioDetail) => ScenarioDetail, send: () => Promise<unknown>): Promise<boolean> => {
    await client.cancelQueries({ queryKey: key });
    const before = client.getQueryData<ScenarioDetail>(key);
    client.setQueryData<ScenarioDetail>(key, (current) => current && change(current));
    try {
      await send();
      return true;
    } catch (error) {
      client.setQueryData(key, before);
      notify({ kind: 'problem', text: toMessage(error) });
      return false;
    } finally {
      await client.invalidateQueries({ queryKey: key });
    }
  };
  const sendLeg = (id: string, change: ChangeLeg) => sendJson('PATCH', `${path}/legs/${id}`, change);
  const addLeg = (leg: Omit<AddLeg, 'id'>) =>
    edit(
      (scenario) => scenario,
      () => sendJson('POST', `${path}/legs`, { ...leg, id: crypto.randomUUID() as LegId }),
    );
  const moveLeg = (id: LegId, before: LegId | null) =>
    edit(
      (scenario) => ({ ...scenario, legs: placeBefore(scenario.legs, id, before) }),
      () => sendLeg(id, { before }),
    );
  const changeLeg = (id: LegId, change: ChangeLeg) =>
    edit(
      (scenario) => scenario,
      () => sendLeg(id, change),
    );
  const changeScenario = (change: ChangeScenario) =>
    edit(
      (scenario) => scenario,
      () => sendJson('PATCH', path, change),
    );
  const removeLeg = async (leg: LegDetail) => {
    const next = data.legs[data.legs.findIndex(({ id }) => id === leg.id) + 1];
    const isGone = await edit(
      (scenario) => ({ ...scenario, legs: scenario.legs.filter(({ id }) => id !== leg.id) }),
      () => sendJson('DELETE', `${path}/legs/${leg.id}`),
    );
    const restore = { before: next?.id ?? null, test: leg.test?.code ?? null, title: leg.title, teamId: null };
    if (isGone) notify({ kind: 'done', text: `${leg.title} is taken out.`, action: { label: 'Undo', run: () => void addLeg(restore) } });
  };
  return { scenario: data, ...wiring, addLeg, moveLeg, changeLeg, removeLeg, changeScenario };
}

export type ScenarioInHand = ReturnType<typeof useScenario>;
