import { nodeDetailSchema } from '@kindred-baton/contracts/map/node';
import { renderMarkdown } from '@kindred-baton/formats/documents/render-markdown';
import { getNode } from '@kindred-baton/store/map/get-node';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  output: nodeDetailSchema,
  handle: async ({ ask, param }) => {
    const node = await ask(getNode, param('code'));
    return { ...node, descriptionHtml: renderMarkdown(node.description) };
  },
});
