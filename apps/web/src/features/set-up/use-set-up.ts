import { useQueryClient } from '@tanstack/react-query';
import { useNotice } from '../../ui/notices.tsx';
import { sendJson, toMessage } from '../../ui/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';

type Method = 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** Sends a change of the set-up. `send` rejects with what is wrong, for a form; `act` says it, for a button. */
export function useSetUp() {
  const { api } = useProgramme();
  const client = useQueryClient();
  const notify = useNotice();
  const send = async <Answer>(method: Method, path: string, body?: unknown): Promise<Answer> => {
    const answer = await sendJson<Answer>(method, `${api}/set-up${path}`, body);
    await client.invalidateQueries({ queryKey: ['set-up'] });
    await client.invalidateQueries({ queryKey: ['choices'] });
    return answer;
  };
  const act = async (method: Method, path: string, done: string, body?: unknown): Promise<boolean> => {
    try {
      await send(method, path, body);
      notify({ kind: 'done', text: done });
      return true;
    } catch (error) {
      notify({ kind: 'problem', text: toMessage(error) });
      return false;
    }
  };
  return { send, act };
}
