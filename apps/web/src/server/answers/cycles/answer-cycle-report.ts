import { nameSeverity } from '@kindred-baton/core/defects/defect';
import { printDay } from '@kindred-baton/core/time/calendar';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ReportedCycle } from '@kindred-baton/formats/cycles/cycle-report';
import { toCycleTables, writeAcceptanceSheet, writeCycleReport } from '@kindred-baton/formats/cycles/cycle-report';
import { getAcceptance } from '@kindred-baton/store/cycles/acceptance';
import { listRunEnds } from '@kindred-baton/store/cycles/list-runs';
import { getCycle } from '@kindred-baton/store/cycles/get-cycle';
import { listCycleRecord } from '@kindred-baton/store/cycles/list-cycle-record';
import { listDefects } from '@kindred-baton/store/defects/get-defects';
import { doAside } from '../../aside/do-aside.ts';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Call } from '../../call.ts';
import { printPdf } from '../../documents/print-pdf.ts';
import { toHead } from '../../documents/to-head.ts';

/** A cycle's report as PDF or workbook, and the sheet on which a node's owner signs. */
export async function answerCycleReport({ ask, actor, url, params }: Call<{ readonly code: string }>): Promise<Response> {
  const format = url.searchParams.get('format') ?? 'pdf';
  const cycle = await loadReport({ ask, actor }, params.code);
  const head = toHead({ actor, url }, cycle.name);
  if (format === 'xlsx') {
    const book = await doAside('write workbook', toCycleTables(cycle, await ask(listCycleRecord, params.code)));
    return answerFile(book, { name: `${cycle.code}.xlsx`, mediaType: MEDIA_TYPES.xlsx });
  }
  if (format === 'pdf')
    return answerFile(await printPdf(writeCycleReport(cycle, head)), { name: `${cycle.code}-report.pdf`, mediaType: MEDIA_TYPES.pdf });
  if (format !== 'sheet') throw new AppError('invalid', `A cycle's report is not written as ${format}; pdf, xlsx and sheet are.`);
  const node = cycle.nodes.find(({ code }) => code === url.searchParams.get('node'));
  if (!node) throw new AppError('not found', `Cycle ${cycle.code} does not touch a node ${url.searchParams.get('node') ?? ''}.`);
  const sheet = writeAcceptanceSheet(cycle, node, { ...head, title: `Acceptance: ${node.name}` });
  return answerFile(await printPdf(sheet), { name: `${cycle.code}-${node.code}-acceptance.pdf`, mediaType: MEDIA_TYPES.pdf });
}

async function loadReport({ ask, actor: { timeZone, severityNames } }: Pick<Call, 'ask' | 'actor'>, code: string): Promise<ReportedCycle> {
  const [cycle, ends, acceptance, { defects }] = await Promise.all([
    ask(getCycle, code),
    ask(listRunEnds, code),
    ask(getAcceptance, code),
    ask(listDefects, undefined),
  ]);
  return {
    ...cycle,
    ...{ criteria: acceptance.criteria, counts: acceptance.counts },
    severityNames,
    nodes: acceptance.nodes.map((node) => ({
      ...node,
      openDefects: node.openDefects.map((defect) => ({ ...defect, severity: nameSeverity(defect.severity, severityNames) })),
      signOff: node.signOff && { ...node.signOff, at: printDay(Date.parse(node.signOff.at), timeZone) },
    })),
    runs: ends.runs.map(({ number, scenario, rowName, outcome, leftTo, leftReason }) => ({
      ...{ number, outcome, scenario: `${scenario.code} ${scenario.name}`, row: rowName ?? '' },
      left: leftTo === null ? '' : `${leftTo}${leftReason === '' ? '' : `: ${leftReason}`}`,
    })),
    defects: defects
      .filter((defect) => defect.cycle.code === code)
      .map((defect) => ({
        ...defect,
        severity: nameSeverity(defect.severity, severityNames),
        team: defect.team ?? '',
      })),
    changes: cycle.scopeChanges.map(({ at, by, action, why }) => ({ at: printDay(Date.parse(at), timeZone), by: by ?? '', action, why })),
  };
}
