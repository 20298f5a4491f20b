import type { Answer, Json } from '@kindred-baton/core/doors/answer';
import { DOOR_LIMITS } from '@kindred-baton/core/doors/door';
import type { Question } from '@kindred-baton/core/doors/read-question';
import type { OpenDoor } from './door.ts';
import { NoAnswer } from './door.ts';

/**
 * Asks an interface over HTTP. It reaches no other address than the door's own, follows no redirect, and reads no more than the limits say.
 * Throws NoAnswer; whatever code it answers with is an answer.
 */
export async function askInterface(door: OpenDoor, question: Extract<Question, { kind: 'interface' }>): Promise<Answer> {
  const url = toAddress(door, question.path);
  try {
    const response = await fetch(url, {
      ...{ method: question.method, redirect: 'manual', signal: AbortSignal.timeout(DOOR_LIMITS.milliseconds) },
      headers: {
        accept: 'application/json, text/plain;q=0.5, */*;q=0.1',
        ...(question.body === undefined ? {} : { 'content-type': isJson(question.body) ? 'application/json' : 'text/plain;charset=utf-8' }),
        ...toCredentials(door),
      },
      ...(question.body === undefined ? {} : { body: question.body }),
    });
    if (response.status >= 300 && response.status < 400)
      throw new NoAnswer(`“${door.name}” sends to another address (${response.status}); a door goes to its own only.`);
    const { text, isCut } = await readText(response);
    return { code: response.status, body: parse(text), columns: [], isCut };
  } catch (error) {
    throw error instanceof NoAnswer ? error : new NoAnswer(describe(error, door, url));
  }
}

/** The address of a path of the door. It may not lead out of where the door's paths begin. */
function toAddress({ address, name }: OpenDoor, path: string): URL {
  const base = new URL(address.endsWith('/') ? address : `${address}/`);
  const url = new URL(`.${path}`, base);
  if (url.origin !== base.origin || !url.pathname.startsWith(base.pathname))
    throw new NoAnswer(`The path ${path} leads out of the door “${name}”.`);
  return url;
}

function toCredentials({ signIn, user, secret }: OpenDoor): Record<string, string> {
  if (signIn === 'bearer') return { authorization: `Bearer ${secret}` };
  if (signIn === 'basic') return { authorization: `Basic ${Buffer.from(`${user}:${secret}`).toString('base64')}` };
  return signIn === 'header' ? { [user]: secret } : {};
}

async function readText(response: Response): Promise<{ text: string; isCut: boolean }> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  const reader = response.body?.getReader();
  for (;;) {
    const piece = await reader?.read();
    if (piece?.value === undefined) break;
    pieces.push(piece.value);
    size += piece.value.length;
    if (size <= DOOR_LIMITS.bytes) continue;
    await reader?.cancel();
    break;
  }
  const bytes = Buffer.concat(pieces);
  return { text: bytes.subarray(0, DOOR_LIMITS.bytes).toString('utf8'), isCut: size > DOOR_LIMITS.bytes };
}

const isJson = (text: string): boolean => typeof parse(text) !== 'string';

function parse(text: string): Json {
  try {
    return JSON.parse(text) as Json;
  } catch {
    return text;
  }
}

function describe(error: unknown, { name }: OpenDoor, { host }: URL): string {
  if (error instanceof DOMException && error.name === 'TimeoutError')
    return `“${name}” did not answer within ${DOOR_LIMITS.milliseconds / 1_000} seconds.`;
  const cause = error instanceof Error && error.cause instanceof Error ? (error.cause as Error & { code?: string }) : undefined;
  return `“${name}” could not be reached at ${host} (${cause?.code ?? (error as Error).message}).`;
}
