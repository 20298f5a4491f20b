import type { Field } from '../values/field.ts';
import type { LegView } from './chain.ts';
import type { LegDocument } from './scenario-document.ts';

/** The version of a test that a leg is drawn with. */
export interface DrawnTest {
  readonly name: string;
  readonly team: string | null;
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
  readonly ownValues: Readonly<Record<string, string>>;
  readonly place: { readonly parent: string; readonly order: number } | null;
  readonly isRetired: boolean;
}

/** Which test, in which version, a leg is drawn with; undefined: it is open. */
export function toTestKey({ test, version }: Pick<LegDocument, 'test' | 'version'>): string | undefined {
  return test === null ? undefined : `${test}@${version ?? 'newest'}`;
}

/** A leg as the wiring sees it. A test that is not known yet needs and gives nothing. */
export function toLegView(leg: LegDocument, test: DrawnTest | undefined): LegView {
  return {
    id: leg.id,
    title: leg.title ?? test?.name ?? leg.test ?? 'Open leg',
    isOpen: leg.test === null,
    needs: leg.test === null ? leg.needs : (test?.needs ?? []),
    gives: leg.test === null ? leg.gives : (test?.gives ?? []),
    ownValues: test?.ownValues ?? {},
    after: leg.after ?? undefined,
    wires: leg.wires,
    team: leg.team ?? test?.team ?? null,
    samePersonAs: leg.samePersonAs,
    otherPersonThan: leg.otherPersonThan,
    isRetired: test?.isRetired ?? false,
    place: test?.place ?? undefined,
  };
}
