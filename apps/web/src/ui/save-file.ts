import { getBlob } from '../client/request.ts';

/** Fetches a file and saves it under a name; a refusal is thrown as a sentence, and the page stays as it is. */
export async function saveFile(path: string, name: string): Promise<void> {
  const address = URL.createObjectURL(await getBlob(path));
  Object.assign(document.createElement('a'), { href: address, download: name }).click();
  URL.revokeObjectURL(address);
}
