import { createHash } from 'node:crypto';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ImportPreview } from '@kindred-baton/contracts/imports/import';
import { checkImport } from '@kindred-baton/core/imports/check-import';
import { previewScenarios } from '@kindred-baton/core/imports/preview-scenarios';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import { readImport } from '@kindred-baton/formats/import/read-import';
import { loadSurroundings } from '@kindred-baton/store/imports/load-surroundings';
import { storeImport } from '@kindred-baton/store/imports/store-import';
import type { EndpointContext } from '../../server/endpoint.ts';

/** Looks at a workbook. With the fingerprint of what was seen, and nothing wrong in it, it is stored: all or nothing. */
export async function answerImport(context: EndpointContext<undefined>, form: FormData): Promise<ImportPreview> {
  const file = form.get('file');
  if (!(file instanceof File)) throw new AppError('invalid', 'There is no workbook in the request.');
  const around = await context.ask(loadSurroundings, undefined);
  const bytes = new Uint8Array(await file.arrayBuffer());
  const fingerprint = createHash('sha256').update(bytes).digest('hex');
  const reading = await readImport(bytes);
  const check = checkImport(reading.document, around);
  const problems = [...reading.problems, ...check.problems];
  const accepted = form.get('accept');
  const isAccepted = typeof accepted === 'string' && accepted !== '';
  if (isAccepted && accepted !== fingerprint)
    throw new AppError('conflict', 'The file is another than the one that was looked at. Look at it again.');
  if (isAccepted && problems.length === 0) await context.perform(storeImport, reading.document);
  const { nodes, tests } = check.additions;
  return {
    ...{ file: file.name, fingerprint, alreadyThere: check.alreadyThere, isStored: isAccepted && problems.length === 0 },
    problems: problems.map(({ sheet, row, column, message }) => ({ sheet, row, column, message })),
    nodes: nodes.map(({ code, name, parent }) => ({ code, name, parent })),
    tests: tests.map(({ code, name, activity, steps }) => {
      const { needs, gives } = deriveInterface(steps.map(({ step }) => step));
      return { code, name, activity, steps: steps.length, needs: needs.map((need) => need.name), gives: gives.map((give) => give.name) };
    }),
    scenarios: previewScenarios(check.additions),
  };
}
