/**
 * Identifiers of the domain, branded so that a turn's id cannot be passed where a run's is meant.
 * They are UUIDs as text. The store mints them (packages/store/src/ids.ts); nothing else does.
 */
declare const brand: unique symbol;

export type Id<Kind extends string> = string & { readonly [brand]: Kind };

export type ProgrammeId = Id<'programme'>;
export type PersonId = Id<'person'>;
export type TeamId = Id<'team'>;
export type ApplicationId = Id<'application'>;
export type EnvironmentId = Id<'environment'>;
export type NodeId = Id<'node'>;
export type RequirementId = Id<'requirement'>;
export type TestId = Id<'test'>;
export type TestVersionId = Id<'testVersion'>;
export type ScenarioId = Id<'scenario'>;
export type ScenarioRowId = Id<'scenarioRow'>;
export type LegId = Id<'leg'>;
export type CycleId = Id<'cycle'>;
export type RunId = Id<'run'>;
export type TurnId = Id<'turn'>;
export type AttemptId = Id<'attempt'>;
export type EvidenceId = Id<'evidence'>;
export type RunnerId = Id<'runner'>;
export type DoorId = Id<'door'>;
export type TrialId = Id<'trial'>;
export type DefectId = Id<'defect'>;
export type PersonaId = Id<'persona'>;
export type JobId = Id<'job'>;
export type InvitationId = Id<'invitation'>;
export type NudgeId = Id<'nudge'>;
export type DefectWordId = Id<'defectWord'>;
export type MailId = Id<'mail'>;
export type DataAddressId = Id<'dataAddress'>;
export type SliceId = Id<'slice'>;
export type DecisionId = Id<'decision'>;
export type BoardId = Id<'board'>;
