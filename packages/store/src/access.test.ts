import { randomUUID } from 'node:crypto';
import type { Role } from '@kindred-baton/core/programmes/roles';
import { hasRight, ROLES } from '@kindred-baton/core/programmes/roles';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../tests/support/test-store.ts';
import { createTestStore } from '../../../tests/support/test-store.ts';
import type { Actor } from './actor.ts';
import { changeCycle, createCycle } from './cycles/change-cycles.ts';
import { changeScope, getScopeEffects, takeScenario } from './cycles/change-scope.ts';
import { getAcceptance, signOffNode } from './cycles/acceptance.ts';
import { getSinceOpening } from './cycles/get-since-opening.ts';
import { getPlan } from './cycles/get-plan.ts';
import { staffCycle } from './cycles/staff-cycle.ts';
import { changeDefect, getLikelySame, joinDefect, sayDefect } from './defects/talk-about-defects.ts';
import { invitePeople, leaveProgramme, revokeInvitation, savePerson } from './programmes/change-people.ts';
import {
  changeProgramme,
  createProgramme,
  removeApplication,
  removeEnvironment,
  removeTeam,
  saveApplication,
  saveEnvironment,
  saveTeam,
} from './programmes/change-programme.ts';
import { getHistory, getSetUp, listMails } from './programmes/get-set-up.ts';
import { getProfile, saveProfile } from './programmes/profile.ts';
import { moveCycle } from './cycles/move-cycle.ts';
import { getCycle } from './cycles/get-cycle.ts';
import { getCycleScope } from './cycles/get-cycle-scope.ts';
import { listCycles } from './cycles/list-cycles.ts';
import { logDefect, moveDefect } from './defects/change-defects.ts';
import { getDefect, listDefects } from './defects/get-defects.ts';
import { dropEvidence, getEvidence, keepEvidence } from './evidence/keep-evidence.ts';
import { findAnything } from './find/find-anything.ts';
import { loadSurroundings } from './imports/load-surroundings.ts';
import { storeImport } from './imports/store-import.ts';
import { changeLevels, editMap, moveHangs } from './map/edit-map.ts';
import { getHangs } from './map/get-hangs.ts';
import { getMapChanges } from './map/get-map-changes.ts';
import { compareRequirementImport, storeRequirementImport } from './imports/store-requirement-import.ts';
import { getOutline } from './map/load-outline.ts';
import { compareMapImport, storeMapImport } from './imports/store-map-import.ts';
import { linkTest, removeRequirement, saveRequirement } from './requirements/change-requirements.ts';
import { getTraceability, listRequirements } from './requirements/list-requirements.ts';
import { getMap } from './map/get-map.ts';
import { getNode } from './map/get-node.ts';
import { getStrip } from './map/get-strip.ts';
import type { Operation, Query } from './operation.ts';
import { getProgress } from './progress/get-progress.ts';
import { getChoices, getViewer } from './programmes/get-viewer.ts';
import { changeScenario, createScenario } from './scenarios/change-scenarios.ts';
import { compareScenarioImport, storeScenarioImport } from './imports/store-scenario-import.ts';
import { compareScenario, listScenarioStates } from './scenarios/compare-scenario.ts';
import { draftForLeg } from './scenarios/draft-for-leg.ts';
import { editScenario } from './scenarios/edit-scenario.ts';
import { findChainInLibrary } from './scenarios/find-chain.ts';
import { getMapGaps, getMapWay } from './scenarios/follow-map.ts';
import { getOverlaps } from './scenarios/get-overlaps.ts';
import { loadScenarioToExport } from './scenarios/load-exported.ts';
import { proposeForLegs } from './scenarios/propose-for-legs.ts';
import { getChangeReview, replaceTest, takeVersion } from './scenarios/review-change.ts';
import { getScenario } from './scenarios/get-scenario.ts';
import { listScenarios } from './scenarios/list-scenarios.ts';
import { compareTestImport, storeTestImport } from './imports/store-test-import.ts';
import { getJob, getJobFile, requestExport, stopJob } from './jobs/jobs.ts';
import { listPersonas, removePersona, savePersona } from './personas/personas.ts';
import { changeTests } from './tests/change-many-tests.ts';
import { agreeTest, createTest, discardDraft, saveTest } from './tests/change-tests.ts';
import { getLibraryFindings } from './tests/get-library-findings.ts';
import { getTestSurroundings } from './tests/get-test-surroundings.ts';
import { loadTestsToExport } from './tests/load-tests-to-export.ts';
import { takeNewerVersion } from './turns/take-newer-version.ts';
import { waiveFinding } from './tests/waive-finding.ts';
import { getTest } from './tests/get-test.ts';
import { listTestCodes, listTests } from './tests/list-tests.ts';
import { keepSheet } from './turns/keep-sheet.ts';
import { nudge } from './turns/nudge.ts';
import { passTurn } from './turns/pass-turn.ts';
import { getGuide } from './turns/get-guide.ts';
import { getRunOverlay } from './turns/get-run-overlay.ts';
import { getTurnsHome, markSeen } from './turns/get-turns-home.ts';
import { listTurns } from './turns/list-turns.ts';
import { finishAttempt, recordStep, startAttempt } from './turns/make-attempts.ts';

/** Everything that can be asked or done, with an input that is refused for another reason once it is allowed. */
const OPERATIONS: Readonly<Record<string, Operation<never, unknown>>> = {
  ...{
    editMap,
    moveHangs,
    changeLevels,
    storeMapImport,
    storeRequirementImport,
    saveRequirement,
    removeRequirement,
    linkTest,
    createTest,
    saveTest,
    agreeTest,
    discardDraft,
    changeTests,
    waiveFinding,
    takeNewerVersion,
    storeTestImport,
    savePersona,
    removePersona,
    requestExport,
    stopJob,
    createScenario,
    changeScenario,
    editScenario,
    storeScenarioImport,
    draftForLeg,
    takeVersion,
    replaceTest,
  },
  ...{ changeCycle, changeScope, takeScenario, signOffNode, staffCycle, changeDefect, joinDefect, sayDefect, markSeen },
  ...{ invitePeople, leaveProgramme, revokeInvitation, savePerson, saveProfile, changeProgramme, createProgramme },
  ...{ saveApplication, removeApplication, saveEnvironment, removeEnvironment, saveTeam, removeTeam },
  ...{
    createCycle,
    moveCycle,
    passTurn,
    nudge,
    startAttempt,
    recordStep,
    finishAttempt,
    keepEvidence,
    dropEvidence,
    keepSheet,
    logDefect,
    moveDefect,
    storeImport,
  },
};
const QUERIES: Readonly<Record<string, Query<never, unknown>>> = {
  ...{
    getStrip,
    getMap,
    getNode,
    listTests,
    listTestCodes,
    getTest,
    getTestSurroundings,
    getLibraryFindings,
    compareTestImport,
    loadTestsToExport,
    listPersonas,
    getJob,
    getJobFile,
    listScenarios,
    getScenario,
    listCycles,
    getCycle,
    getCycleScope,
    getViewer,
    getChoices,
  },
  ...{ getTurnsHome, listTurns, getGuide, getRunOverlay, listDefects, getDefect, getEvidence, getProgress, findAnything, loadSurroundings },
  ...{ findChainInLibrary, proposeForLegs, getChangeReview, getOverlaps, getMapWay, getMapGaps, listScenarioStates, compareScenario },
  ...{ getSinceOpening, getPlan, getScopeEffects, getAcceptance, getLikelySame, getSetUp, getHistory, listMails, getProfile },
  ...{ loadScenarioToExport, compareScenarioImport },
  ...{ getHangs, getMapChanges, compareMapImport, compareRequirementImport, getOutline, listRequirements, getTraceability },
};

describe('access', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const asRole = (role: Role): Actor => ({ ...lead, roles: [role] });
  const code = async (promise: Promise<unknown>) =>
    promise.then(
      () => 'done',
      (error: { code?: string }) => error.code ?? 'other',
    );

  it.each(ROLES)('of a %s is what her rights say, for every operation', async (role) => {
    for (const [name, operation] of Object.entries(OPERATIONS)) {
      const answer = await code(db.perform(asRole(role), operation, {} as never));
      expect([name, answer === 'forbidden']).toEqual([name, !hasRight([role], operation.right)]);
    }
  });

  it.each(ROLES)('of a %s is what her rights say, for every query', async (role) => {
    for (const [name, query] of Object.entries(QUERIES)) {
      const answer = await code(db.ask(asRole(role), query, undefined as never));
      expect([name, answer === 'forbidden']).toEqual([name, !hasRight([role], query.right)]);
    }
  });

  it('ends at the programme: what belongs to another is not found, by any address', async () => {
    const stranger: Actor = { ...lead, programmeId: randomUUID() as never };
    const scenario = await db.ask(lead, getScenario, 'NS-S1');
    const turn = (await db.ask(lead, listTurns, { cycle: 'ACC-2', page: 1 })).turns[0];
    expect(await code(db.ask(stranger, getGuide, turn?.id as never))).toBe('not found');
    expect(await code(db.ask(stranger, getRunOverlay, scenario.runs[0]?.id as never))).toBe('not found');
    expect(await code(db.ask(stranger, getTest, { code: 'BIL-01' }))).toBe('not found');
    expect(
      await code(
        db.perform(stranger, editScenario, { code: 'NS-S1', edits: [{ kind: 'remove leg', leg: scenario.document.legs[0]?.id as never }] }),
      ),
    ).toBe('not found');
    expect((await db.ask(stranger, getMap, undefined)).nodes).toEqual([]);
  });

  it('does not let ids of another programme in', async () => {
    await expect(
      db.perform(lead, changeScenario, { code: 'NS-S1', change: { ownerId: randomUUID() as never } } as never),
    ).rejects.toThrow();
  });
});
