import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import type { Choices } from '@kindred-baton/contracts/programmes/programme';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Choose } from '../../ui/choose.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { getJson, sendJson, toMessage } from '../../ui/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';

/** For whoever runs the cycle: gives the turn to somebody else. */
export function AssignTurn({ turnId }: { readonly turnId: string }) {
  const { api, can } = useProgramme();
  const client = useQueryClient();
  const notify = useNotice();
  const isAllowed = can('run cycles');
  const { data: choices } = useQuery({ queryKey: ['choices'], queryFn: () => getJson<Choices>(`${api}/choices`), enabled: isAllowed });
  const { data: guide } = useQuery({ queryKey: ['turns', turnId], queryFn: () => getJson<GuideView>(`${api}/turns/${turnId}`) });
  if (!isAllowed || !choices || !guide) return null;
  const chosen = choices.people.find(({ name }) => name === guide.turn.assignee)?.id ?? null;
  const assign = async (personId: string) => {
    try {
      await sendJson('PUT', `${api}/turns/${turnId}/assignee`, { personId });
      await client.invalidateQueries({ queryKey: ['turns'] });
    } catch (error) {
      notify({ kind: 'problem', text: toMessage(error) });
    }
  };
  return (
    <div className="mt-4">
      <Choose
        label="With"
        chosen={chosen}
        choices={choices.people.map(({ id, name }) => ({ key: id, name }))}
        onChoose={(id) => void assign(id)}
        isDisabled={guide.turn.state === 'under way'}
      />
    </div>
  );
}
