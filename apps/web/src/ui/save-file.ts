import type { ErrorAnswer } from '@kindred-baton/contracts/errors';
import { RequestError } from '../client/request.ts';

/** Fetches a file and saves it under a name; a refusal is thrown as a sentence, and the page stays as it is. */
export async function saveFile(path: string, name: string): Promise<void> {
  const answer = await fetch(path);
  if (!answer.ok) throw new RequestError((await answer.json()) as ErrorAnswer);
  const address = URL.createObjectURL(await answer.blob());
  Object.assign(document.createElement('a'), { href: address, download: name }).click();
  URL.revokeObjectURL(address);
}
