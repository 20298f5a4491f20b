import type { EvidenceView } from '@kindred-baton/contracts/common';
import { getEvidence } from '@kindred-baton/store/evidence/keep-evidence';
import type { Call } from '../../call.ts';
import type { FileBeside } from '../../documents/print-pdf.ts';

/** So much is put into one document; what is over is named, and counted. */
const MOST_PICTURES = 300;
const MOST_BYTES = 100 * 1024 * 1024;

export interface Pictures {
  /** Where the document finds a file; null: it only names it. */
  readonly addressOf: (file: EvidenceView) => string | null;
  /** What is put in, by the name that it has beside the document. */
  readonly taken: readonly { readonly name: string; readonly id: EvidenceView['id'] }[];
  readonly leftOut: () => number;
}

const isPicture = ({ mediaType }: EvidenceView) => mediaType.startsWith('image/');

/** Pictures that lie beside a document while it is printed. */
export function gatherPictures(): Pictures {
  const taken: { name: string; id: EvidenceView['id'] }[] = [];
  const of = { bytes: 0, leftOut: 0 };
  return {
    taken,
    leftOut: () => of.leftOut,
    addressOf: (file) => {
      if (!isPicture(file)) return null;
      if (taken.length >= MOST_PICTURES || of.bytes + file.size > MOST_BYTES) {
        of.leftOut += 1;
        return null;
      }
      of.bytes += file.size;
      const name = `picture-${taken.length + 1}`;
      taken.push({ name, id: file.id });
      return name;
    },
  };
}

/** One after the other, as they are written beside the document. */
export async function* loadPictures(ask: Call['ask'], { taken }: Pictures): AsyncGenerator<FileBeside> {
  for (const { name, id } of taken) yield { name, content: (await ask(getEvidence, id)).content };
}

/** Pictures that a browser asks for as it shows a document: `base` is where the programme's endpoints are. */
export const linkPictures = (base: string): Pictures => ({
  ...{ taken: [], leftOut: () => 0 },
  addressOf: (file) => (isPicture(file) ? `${base}/evidence/${file.id}` : null),
});
