import type { TestDetail } from '@kindred-baton/contracts/tests/test';
import type { DraftEvent, TestDraft } from './test-draft.ts';
import type { Saving } from './use-saving.ts';

/** What every part of the editor works on. */
export interface EditorProps {
  readonly test: TestDetail;
  readonly draft: TestDraft;
  readonly dispatch: (event: DraftEvent) => void;
  readonly saving: Saving;
  readonly canEdit: boolean;
}
