import { getBlob } from '../client/request.ts';

/** Fetches a file and saves it under a name; a refusal is thrown as a sentence, and the page stays as it is. */
export async function saveFile(path: string, name: string): Promise<void> {
  saveBlob(await getBlob(path), name);
}

/** Saves what is there already. */
export function saveBlob(blob: Blob, name: string): void {
  const address = URL.createObjectURL(blob);
  Object.assign(document.createElement('a'), { href: address, download: name }).click();
  URL.revokeObjectURL(address);
}
