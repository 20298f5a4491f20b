import { DONE } from '@kindred-baton/contracts/common';
import type { mapRoutes } from '@kindred-baton/contracts/map/routes';
import { renderMarkdown } from '@kindred-baton/formats/documents/render-markdown';
import { changeLevels, editMap, moveHangs } from '@kindred-baton/store/map/edit-map';
import { getHangs } from '@kindred-baton/store/map/get-hangs';
import { getMap } from '@kindred-baton/store/map/get-map';
import { getMapChanges } from '@kindred-baton/store/map/get-map-changes';
import { getNode } from '@kindred-baton/store/map/get-node';
import { getOutline } from '@kindred-baton/store/map/get-outline';
import { getStrip } from '@kindred-baton/store/map/get-strip';
import type { Answers } from '../../call.ts';
import { answerMapExport } from './answer-map-export.ts';

export const mapAnswers: Answers<typeof mapRoutes> = {
  getStrip: ({ ask, input }) => ask(getStrip, input),
  getOutline: ({ ask }) => ask(getOutline, undefined),
  getMap: ({ ask }) => ask(getMap, undefined),
  editMap: ({ perform, input }) => perform(editMap, input),
  getNode: async ({ ask, params }) => {
    const node = await ask(getNode, params.code);
    return { ...node, descriptionHtml: renderMarkdown(node.description) };
  },
  changeLevels: async ({ perform, input }) => {
    await perform(changeLevels, input);
    return DONE;
  },
  getHangs: ({ ask, input }) => ask(getHangs, { codes: input.codes.split(',') }),
  moveHangs: ({ perform, input }) => perform(moveHangs, input),
  getMapChanges: ({ ask, params }) => ask(getMapChanges, { cycle: params.code }),
  exportMap: answerMapExport,
};
