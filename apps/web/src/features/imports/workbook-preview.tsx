import type { WorkbookImportPreview } from '@kindred-baton/contracts/imports/import';
import type { ReactNode } from 'react';
import { countOf } from '../../ui/format.ts';
import { ComparisonTable } from '../scenarios/reuse/comparison-table.tsx';
import { ChangeKind, ChangeList, ChangeTable } from './change-table.tsx';
import { describeCounts, describeLegs } from './describe-workbook.ts';
import { DifferenceTree } from './difference-tree.tsx';

/** What a workbook would bring and change, list by list, each compared with what is there. */
export function WorkbookPreview({ preview: { map, tests, scenarios } }: { readonly preview: WorkbookImportPreview }) {
  return (
    <>
      <List title="Processes" says={describeCounts(map.counts)}>
        <DifferenceTree differences={map.differences} more={map.more} />
      </List>
      <List title="Tests" says={describeCounts(tests.counts)}>
        <ChangeTable lines={tests.differences.map(({ steps, ...line }) => ({ ...line, parts: steps }))} />
      </List>
      <List title="Scenarios" says={describeCounts(scenarios.counts)}>
        {scenarios.differences.map((scenario) => (
          <Scenario key={scenario.code} scenario={scenario} />
        ))}
      </List>
    </>
  );
}

function List({ title, says, children }: { readonly title: string; readonly says: string; readonly children: ReactNode }) {
  if (says === '') return null;
  return (
    <section aria-label={title} className="grid gap-2">
      <h2>
        {title} <span className="font-normal text-soft">{says}</span>
      </h2>
      {children}
    </section>
  );
}

function Scenario({ scenario }: { readonly scenario: WorkbookImportPreview['scenarios']['differences'][number] }) {
  const { kind, code, title, legs, openLegs, rows, changes, findings, comparison } = scenario;
  return (
    <article className="card px-4 py-3" aria-label={`${code} ${title}`}>
      <h3 className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-mono text-[13px]">{code}</span> {title} <ChangeKind kind={kind} />
        <span className="text-[13px] font-normal text-soft">
          {countOf(legs, 'leg')}
          {openLegs > 0 && `, ${openLegs} open`}, {countOf(rows, 'data row')}
        </span>
      </h3>
      <div className="text-[13px] text-soft">
        <ChangeList changes={changes} />
      </div>
      {findings.length === 0 ? (
        <p className="text-[13px] text-soft">Every baton would arrive.</p>
      ) : (
        <ul className="my-1 list-disc pl-5 text-[13px]" aria-label={`What the wiring of ${code} says`}>
          {findings.map((finding) => (
            <li key={finding}>{finding}</li>
          ))}
        </ul>
      )}
      {!comparison.isSame && (
        <details>
          <summary className="text-[13px]">Leg by leg: {describeLegs(comparison.legs)}</summary>
          <ComparisonTable comparison={comparison} />
        </details>
      )}
    </article>
  );
}
