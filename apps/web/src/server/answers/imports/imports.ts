import { answerMapImport } from './answer-map-import.ts';
import { answerRequirementImport } from './answer-requirement-import.ts';
import { answerScenarioImport } from './answer-scenario-import.ts';
import { answerTestImport } from './answer-test-import.ts';
import { answerWorkbookImport } from './answer-workbook-import.ts';

/** Each import by its route, as it is done in a thread: read, compare, show, and where it was accepted store. */
export const IMPORTS = {
  importWorkbook: answerWorkbookImport,
  importMap: answerMapImport,
  importRequirements: answerRequirementImport,
  importTests: answerTestImport,
  importScenarios: answerScenarioImport,
} as const;
