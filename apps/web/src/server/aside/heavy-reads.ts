import type { RouteName } from '@kindred-baton/contracts/routes';
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
import { getTile } from '@kindred-baton/store/boards/get-tile';
import { getCourse } from '@kindred-baton/store/progress/get-course';
import { getDefectCourse } from '@kindred-baton/store/progress/get-defect-course';
import { getEffort } from '@kindred-baton/store/progress/get-effort';
import { getMinuteProposals } from '@kindred-baton/store/progress/planned-minutes';
import { getHolds } from '@kindred-baton/store/progress/get-holds';
import { getOutlook } from '@kindred-baton/store/progress/decisions';
import { getProgress, getWholeTable } from '@kindred-baton/store/progress/get-progress';
import { getSince } from '@kindred-baton/store/progress/get-since';
import { getTeamProgress } from '@kindred-baton/store/progress/get-team-progress';
import { getAllWrongSteps, getStepTries, getWrongSteps } from '@kindred-baton/store/progress/get-wrong-steps';
import { getTraceability, readTestLinks } from '@kindred-baton/store/requirements/list-requirements';
import { findChainInLibrary } from '@kindred-baton/store/scenarios/find-chain';
import { getMapGaps } from '@kindred-baton/store/scenarios/follow-map';
import { getOverlaps } from '@kindred-baton/store/scenarios/get-overlaps';
import { readRowPage } from '@kindred-baton/store/extracts/read-rows';
import { countToFix, listScenarioNames, listScenarios } from '@kindred-baton/store/scenarios/list-scenarios';
import { getChangeReview } from '@kindred-baton/store/scenarios/review-change';
import { getLibraryFindings } from '@kindred-baton/store/tests/get-library-findings';
import { listTests } from '@kindred-baton/store/tests/list-tests';
import { getRunReport } from '@kindred-baton/store/turns/get-run-report';
import { listTurns } from '@kindred-baton/store/turns/list-turns';

/** For how long the database works on one statement of such a read, in milliseconds. */
export const READ_MS = 20_000;

interface Heavy {
  // Each has its own input and output; asker and answer hold them together by the query itself (ask-aside.ts).
  readonly query: Query<never, unknown>;
  /** Whose answer it is: that of everybody in the programme, or of one person. */
  readonly of: 'programme' | 'person';
  /** The route that gives it out as it is: then it is checked and written in its thread, and only passed on here. */
  readonly route: RouteName | null;
}

const ofAll = (query: Query<never, unknown>, route: RouteName | null): Heavy => ({ query, of: 'programme', route });

/**
 * Reads that grow with the programme. They are done in threads of their own, on connections of their own and within bounds, so that what is
 * recorded does not wait for what is looked up. Adding one: a line here; nothing else knows where a read is done.
 */
export const HEAVY_READS = {
  countToFix: ofAll(countToFix, 'countToFix'),
  findChain: ofAll(findChainInLibrary, 'findChain'),
  getAcceptance: { query: getAcceptance, of: 'person', route: null },
  getAcceptanceShown: { query: getAcceptanceShown, of: 'person', route: 'getAcceptance' },
  getAllWrongSteps: ofAll(getAllWrongSteps, null),
  getChangeReview: ofAll(getChangeReview, 'getChangeReview'),
  getCourse: ofAll(getCourse, 'getCourse'),
  getDefectCourse: ofAll(getDefectCourse, 'getDefectCourse'),
  getCycle: ofAll(getCycle, 'getCycle'),
  getCycleScope: ofAll(getCycleScope, 'getCycleScope'),
  getEffort: ofAll(getEffort, 'getEffort'),
  getMinuteProposals: ofAll(getMinuteProposals, 'getMinuteProposals'),
  getDefect: { query: getDefect, of: 'person', route: 'getDefect' },
  getHolds: ofAll(getHolds, 'getHolds'),
  getLibraryFindings: ofAll(getLibraryFindings, 'getLibraryFindings'),
  getTile: { query: getTile, of: 'person', route: 'getTile' },
  getMap: ofAll(getMap, 'getMap'),
  getMapStart: ofAll(getMapStart, null),
  getMapChanges: ofAll(getMapChanges, 'getMapChanges'),
  getMapGaps: ofAll(getMapGaps, 'getMapGaps'),
  getNode: { query: getNode, of: 'person', route: null },
  getOutline: ofAll(getOutline, 'getOutline'),
  getOutlook: ofAll(getOutlook, 'getOutlook'),
  getOverlaps: ofAll(getOverlaps, 'getOverlaps'),
  getPackedPlan: ofAll(getPackedPlan, 'getPlan'),
  getProgress: ofAll(getProgress, 'getProgress'),
  getSince: ofAll(getSince, 'getSince'),
  getStepTries: ofAll(getStepTries, 'getStepTries'),
  getStrip: ofAll(getStrip, 'getStrip'),
  getTeamProgress: ofAll(getTeamProgress, 'getTeamProgress'),
  getTraceability: ofAll(getTraceability, 'getTraceability'),
  getRunReport: { query: getRunReport, of: 'person', route: null },
  getWrongSteps: ofAll(getWrongSteps, 'getWrongSteps'),
  getWholeTable: ofAll(getWholeTable, null),
  listCycleRecord: ofAll(listCycleRecord, null),
  listCycles: ofAll(listCycles, 'listCycles'),
  listDefectPage: ofAll(listDefectPage, 'listDefects'),
  listDefects: ofAll(listDefects, null),
  listRuns: ofAll(listRuns, 'listRuns'),
  listScenarioNames: ofAll(listScenarioNames, 'listScenarioNames'),
  listScenarios: ofAll(listScenarios, 'listScenarios'),
  listTests: ofAll(listTests, 'listTests'),
  listTurns: ofAll(listTurns, 'listTurns'),
  readRowPage: ofAll(readRowPage, null),
  readTestLinks: ofAll(readTestLinks, 'readTestLinks'),
} as const satisfies Readonly<Record<string, Heavy>>;

export type HeavyRead = keyof typeof HEAVY_READS;
