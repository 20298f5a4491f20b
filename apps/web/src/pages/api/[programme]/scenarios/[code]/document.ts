import { editScenarioSchema, scenarioUndoSchema } from '@kindred-baton/contracts/scenarios/scenario';
import { editScenario } from '@kindred-baton/store/scenarios/edit-scenario';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const PATCH = defineEndpoint({
  input: editScenarioSchema,
  output: scenarioUndoSchema,
  handle: async ({ perform, param, body }) => {
    const { undo } = await perform(editScenario, { code: param('code'), ...body });
    // Core's edits are read-only; on the wire they are plain.
    return scenarioUndoSchema.parse({ undo });
  },
});
