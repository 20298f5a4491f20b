import { createHash } from 'node:crypto';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ImportPreview } from '@kindred-baton/contracts/imports/import';
import { acceptSchema } from '@kindred-baton/contracts/imports/import';
import { checkImport } from '@kindred-baton/core/imports/check-import';
import { previewScenarios } from '@kindred-baton/core/imports/preview-scenarios';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import { readImport } from '@kindred-baton/formats/import/read-import';
import { loadSurroundings } from '@kindred-baton/store/imports/load-surroundings';
import { storeImport } from '@kindred-baton/store/imports/store-import';
import type { Call } from '../../call.ts';
import type { Upload } from '../../read-upload.ts';

/** Looks at our own workbook. With the fingerprint of what was seen, and nothing wrong in it, it is stored: all or nothing. */
export async function answerWorkbookImport(context: Call, { name, bytes, options }: Upload): Promise<ImportPreview> {
  const { accept } = acceptSchema.parse(options);
  const around = await context.ask(loadSurroundings, undefined);
  const fingerprint = createHash('sha256').update(bytes).digest('hex');
  const reading = await readImport(bytes);
  const check = checkImport(reading.document, around);
  const problems = [...reading.problems, ...check.problems];
  if (accept !== undefined && accept !== fingerprint)
    throw new AppError('conflict', 'The file is another than the one that was looked at. Look at it again.');
  const isStored = accept !== undefined && problems.length === 0;
  if (isStored) await context.perform(storeImport, reading.document);
  const { nodes, tests } = check.additions;
  return {
    ...{ file: name, fingerprint, alreadyThere: check.alreadyThere, otherSteps: [...check.otherSteps], isStored, warnings: [] },
    problems: problems.map(({ sheet, row, column, message }) => ({ sheet, row, column, message })),
    nodes: nodes.map(({ code, name: called, parent }) => ({ code, name: called, parent })),
    tests: tests.map(({ code, name: called, activity, steps }) => {
      const { needs, gives } = deriveInterface(steps.map(({ step }) => step));
      return {
        code,
        name: called,
        activity,
        steps: steps.length,
        needs: needs.map((need) => need.name),
        gives: gives.map((give) => give.name),
      };
    }),
    scenarios: previewScenarios(check.additions),
  };
}
