import { getAcceptance, getAcceptanceShown } from '@kindred-baton/store/cycles/acceptance';
import { getCycle } from '@kindred-baton/store/cycles/get-cycle';
import { getCycleScope } from '@kindred-baton/store/cycles/get-cycle-scope';
import { getPackedPlan } from '@kindred-baton/store/cycles/get-plan';
import { listCycleRecord } from '@kindred-baton/store/cycles/list-cycle-record';
import { listCycles } from '@kindred-baton/store/cycles/list-cycles';
import { listRuns } from '@kindred-baton/store/cycles/list-runs';
import { getDefect, listDefectPage, listDefects } from '@kindred-baton/store/defects/get-defects';
import { getMap, getMapStart } from '@kindred-baton/store/map/get-map';
import { getMapChanges } from '@kindred-baton/store/map/get-map-changes';
import { getNode } from '@kindred-baton/store/map/get-node';
import { getOutline } from '@kindred-baton/store/map/get-outline';
import { getStrip } from '@kindred-baton/store/map/get-strip';
import type { Query } from '@kindred-baton/store/operation';
import { getProgress } from '@kindred-baton/store/progress/get-progress';
import { getTraceability, readTestLinks } from '@kindred-baton/store/requirements/list-requirements';
import { findChainInLibrary } from '@kindred-baton/store/scenarios/find-chain';
import { getMapGaps } from '@kindred-baton/store/scenarios/follow-map';
import { getOverlaps } from '@kindred-baton/store/scenarios/get-overlaps';
import { countToFix, listScenarioNames, listScenarios } from '@kindred-baton/store/scenarios/list-scenarios';
import { getChangeReview } from '@kindred-baton/store/scenarios/review-change';
import { getLibraryFindings } from '@kindred-baton/store/tests/get-library-findings';
import { listTests } from '@kindred-baton/store/tests/list-tests';
import { listTurns } from '@kindred-baton/store/turns/list-turns';

/** For how long the database works on one statement of such a read, in milliseconds. */
export const READ_MS = 20_000;

interface Heavy {
  // Each has its own input and output; asker and answer hold them together by the query itself (ask-aside.ts).
  readonly query: Query<never, unknown>;
  /** Whose answer it is: that of everybody in the programme, or of one person. */
  readonly of: 'programme' | 'person';
}

const ofAll = (query: Query<never, unknown>): Heavy => ({ query, of: 'programme' });

/**
 * Reads that grow with the programme. They are done in threads of their own, on connections of their own and within bounds, so that what is
 * recorded does not wait for what is looked up. Adding one: a line here; nothing else knows where a read is done.
 */
export const HEAVY_READS = {
  countToFix: ofAll(countToFix),
  findChain: ofAll(findChainInLibrary),
  getAcceptance: { query: getAcceptance, of: 'person' },
  getAcceptanceShown: { query: getAcceptanceShown, of: 'person' },
  getChangeReview: ofAll(getChangeReview),
  getCycle: ofAll(getCycle),
  getCycleScope: ofAll(getCycleScope),
  getDefect: { query: getDefect, of: 'person' },
  getLibraryFindings: ofAll(getLibraryFindings),
  getMap: ofAll(getMap),
  getMapStart: ofAll(getMapStart),
  getMapChanges: ofAll(getMapChanges),
  getMapGaps: ofAll(getMapGaps),
  getNode: { query: getNode, of: 'person' },
  getOutline: ofAll(getOutline),
  getOverlaps: ofAll(getOverlaps),
  getPackedPlan: ofAll(getPackedPlan),
  getProgress: ofAll(getProgress),
  getStrip: ofAll(getStrip),
  getTraceability: ofAll(getTraceability),
  listCycleRecord: ofAll(listCycleRecord),
  listCycles: ofAll(listCycles),
  listDefectPage: ofAll(listDefectPage),
  listDefects: ofAll(listDefects),
  listRuns: ofAll(listRuns),
  listScenarioNames: ofAll(listScenarioNames),
  listScenarios: ofAll(listScenarios),
  listTests: ofAll(listTests),
  listTurns: ofAll(listTurns),
  readTestLinks: ofAll(readTestLinks),
} as const satisfies Readonly<Record<string, Heavy>>;

export type HeavyRead = keyof typeof HEAVY_READS;
