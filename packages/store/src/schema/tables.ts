/** Every table and enum, for Drizzle and its migrations. */
export { accounts, people, rateLimits, sessions, verifications } from './people.ts';
export { absences, applications, environments, installations, invitations, members, programmes, teamMembers, teams } from './programmes.ts';
export { doorKind, doors, doorSignIn } from './doors.ts';
export { nodes } from './map.ts';
export { priority } from './priority.ts';
export { requirementKind, requirementNodes, requirementTests, requirements } from './requirements.ts';
export { runBy, testVersions, tests, versionState, waivers } from './tests.ts';
export { legs, scenarioRows, scenarioState, scenarioStates, scenarios } from './scenarios.ts';
export {
  baselines,
  cycleEnvironments,
  cyclePurpose,
  cycleState,
  cycles,
  leavingWay,
  runOutcome,
  runs,
  signOffDecision,
  signOffs,
} from './cycles.ts';
export { pools, runnerOrder, runners, trials } from './runners.ts';
export {
  attempts,
  captures,
  evidence,
  leases,
  nudges,
  outcome,
  saidMinutes,
  stepOutcome,
  stepResults,
  turnState,
  turnStatus,
  turns,
} from './turns.ts';
export { defectKind, defectStatus, defectTurns, defectWords, defects, severity } from './defects.ts';
export { personaStarts, personas } from './personas.ts';
export { dataAddresses } from './data-addresses.ts';
export { decisions } from './decisions.ts';
export { boardLinks, boards, slices } from './boards.ts';
export { jobState, jobs } from './jobs.ts';
export { history } from './history.ts';
export { mails } from './mails.ts';
