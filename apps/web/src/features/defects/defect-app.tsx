import { useRead } from '../../client/use-read.ts';
import type { DefectDetail } from '@kindred-baton/contracts/defects/defect';
import { StatusLabel } from '../../ui/baton-mark.tsx';
import { countOf, formatMinutes } from '../../ui/format.ts';
import { Moment } from '../../ui/moment.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { printDefect } from '@kindred-baton/core/defects/print-defect';
import { BatonChip } from '../../ui/baton-chip.tsx';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { useCopy } from '../../ui/use-copy.ts';
import { DefectFields } from './defect-fields.tsx';
import { DefectTalk } from './defect-talk.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { toTurnsPath } from '../progress/to-turns-path.ts';
import { MoveDefect } from './move-defect.tsx';

export function DefectApp({ content, ...frame }: PageProps<DefectDetail>) {
  return (
    <AppFrame {...frame} area="defects">
      <Defect initial={content} />
    </AppFrame>
  );
}

function Defect({ initial }: { readonly initial: DefectDetail }) {
  const { api, base, nameOf } = useProgramme();
  const copyText = useCopy();
  const { data: defect = initial } = useRead('getDefect', { params: { code: initial.code } }, { initialData: initial });
  const copy = async () => {
    const run = defect.run ? `${defect.cycle.name}, run ${defect.run.number}: ${defect.run.name}` : defect.cycle.name;
    const text = printDefect({
      ...defect,
      severity: nameOf(defect.severity),
      run,
      pictures: defect.evidence.map((file) => `${file.name}: ${location.origin}${api}/evidence/${file.id}`),
    });
    await copyText(text, `${defect.code} is copied as text.`);
  };
  return (
    <>
      <PageTitle
        crumbs={
          <>
            <a className="hover:underline" href={`${base}/defects`}>
              Defects
            </a>{' '}
            › <span className="font-mono">{defect.code}</span>
          </>
        }
        title={defect.title}
        about={
          <>
            <b className="text-ink">{defect.status}</b> · {nameOf(defect.severity)} · {defect.kind} · priority {defect.priority}
          </>
        }
      >
        <MenuButton
          label="Take away"
          choices={[
            { key: 'copy', name: 'Copy as text' },
            { key: 'txt', name: 'Text file', href: `${api}/defects/export?defect=${defect.code}&format=txt`, isDownload: true },
            {
              key: 'json',
              name: 'For a program (JSON)',
              href: `${api}/defects/export?defect=${defect.code}&format=json`,
              isDownload: true,
            },
          ]}
          onChoose={(key) => key === 'copy' && void copy()}
        />
        <MoveDefect defect={defect} />
      </PageTitle>
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_320px]">
        <div className="grid min-w-0 content-start gap-4">
          <div className="grid gap-4 md:grid-cols-2">
            <Words title="Expected" text={defect.expected} />
            <Words title="Seen" text={defect.seen} />
          </div>
          {defect.steps.length > 0 && <StepsThere steps={defect.steps} />}
          {defect.evidence.length > 0 && <Pictures evidence={defect.evidence} />}
          <DefectTalk defect={defect} />
        </div>
        <About defect={defect} />
      </div>
    </>
  );
}

function StepsThere({ steps }: Pick<DefectDetail, 'steps'>) {
  return (
    <section className="card px-5 py-4">
      <h2 className="mb-2">Steps up to there, with the values used</h2>
      <ol className="grid gap-1.5">
        {steps.map((step) => (
          <li key={step} className={step.endsWith('(failed)') ? 'border-l-[3px] border-failed pl-2 font-semibold' : 'pl-[11px]'}>
            {step}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Words({ title, text }: { readonly title: string; readonly text: string }) {
  return (
    <section className="card px-5 py-4">
      <h2 className="text-[13px] text-soft">{title}</h2>
      <p className="mt-1 text-[16px] whitespace-pre-line">{text === '' ? '–' : text}</p>
    </section>
  );
}

function About({ defect }: { readonly defect: DefectDetail }) {
  const { base } = useProgramme();
  const { waiting } = defect;
  return (
    <SidePanel label="What it holds">
      <div className="px-4 py-3">
        {waiting.turns > 0 ? (
          <a className="group" href={toTurnsPath({ base, cycle: defect.cycle.code, filters: { hold: `defect:${defect.id}` } })}>
            <strong className="text-[24px] group-hover:underline">{waiting.turns}</strong>{' '}
            <span className="text-soft">{waiting.turns === 1 ? 'turn waits' : 'turns wait'} behind it</span>
            <span className="block text-[13px] text-soft">
              {countOf(waiting.runs, 'run')}, {countOf(waiting.teams, 'team')}, {formatMinutes(waiting.minutes)} of work
            </span>
          </a>
        ) : (
          <p className="text-soft">No turn waits behind it.</p>
        )}
        {defect.reason !== '' && <p className="mt-2">{defect.reason}</p>}
      </div>
      <DefectFields defect={defect} />
      <PanelPart title="Where it failed" count={defect.seenAtTurns}>
        <ul>
          {defect.turns.map((turn) => (
            <li key={turn.id} className="border-b border-line-2 py-1.5 last:border-b-0">
              <a className="font-semibold hover:underline" href={`${base}/turns/${turn.id}`}>
                {turn.title}
              </a>
              <span className="block text-[13px] text-soft">
                {turn.scenario} · {turn.assignee ?? 'nobody'}
              </span>
              <StatusLabel status={turn.status} word={turn.isRetestDue ? 'Retest is due' : undefined} />
            </li>
          ))}
        </ul>
        {defect.seenAtTurns > defect.turns.length && (
          <a className="underline" href={toTurnsPath({ base, cycle: defect.cycle.code, filters: { defect: defect.code } })}>
            All {countOf(defect.seenAtTurns, 'turn')}
          </a>
        )}
      </PanelPart>
      <PanelPart title="Found">
        <p className="text-[13px]">
          {defect.foundBy}, <Moment at={defect.foundAt} />
        </p>
        <p className="text-[13px] text-soft">
          {[defect.environment, defect.browser].filter((text) => text !== '').join(' · ')}
          {defect.persona !== '' && ` · as ${defect.persona}`}
        </p>
        {defect.seenAt && (
          <p className="text-[13px]">
            At{' '}
            <a className="underline" href={`${base}/map?node=${defect.seenAt.code}`}>
              {defect.seenAt.code} {defect.seenAt.name}
            </a>
            , at no turn
          </p>
        )}
        {defect.run && (
          <p className="text-[13px]">
            <a className="underline" href={`${base}/scenarios/${defect.run.scenario}?run=${defect.run.id}`}>
              Run {defect.run.number}: {defect.run.name}
            </a>
          </p>
        )}
        {defect.baton.length > 0 && (
          <p className="mt-1.5 flex flex-wrap gap-1.5">
            {defect.baton.map(({ name, value }) => (
              <BatonChip key={name} name={name} value={value} canCopy />
            ))}
          </p>
        )}
      </PanelPart>
      <PanelPart title="History">
        <ol className="grid gap-1 text-[13px]">
          {defect.history.map((entry) => (
            <li key={entry.at + entry.action}>
              {entry.action}{' '}
              <span className="text-soft">
                · {entry.by ?? 'the program'}, <Moment at={entry.at} />
              </span>
            </li>
          ))}
        </ol>
      </PanelPart>
    </SidePanel>
  );
}

function Pictures({ evidence }: Pick<DefectDetail, 'evidence'>) {
  const { api } = useProgramme();
  return (
    <section className="card px-5 py-4">
      <h2 className="mb-2">Pictures</h2>
      <div className="flex flex-wrap gap-3">
        {evidence.map((file) => (
          <a key={file.id} href={`${api}/evidence/${file.id}`} target="_blank" rel="noreferrer" title={file.name}>
            {file.mediaType.startsWith('image/') ? (
              <img className="h-[140px] rounded-control border border-line" src={`${api}/evidence/${file.id}`} alt={file.name} />
            ) : (
              file.name
            )}
          </a>
        ))}
      </div>
    </section>
  );
}
