import type { ImportPreview } from '@kindred-baton/contracts/imports/import';
import FileDown from 'lucide-react/icons/file-down';
import FileUp from 'lucide-react/icons/file-up';
import type { DragEvent } from 'react';
import { useRef, useState } from 'react';
import { countOf } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { sendForm, toMessage } from '../../ui/request.ts';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { PreviewView } from './preview-view.tsx';

export function ImportApp(frame: PageProps<null>) {
  return (
    <AppFrame {...frame} area="map">
      <ImportWorkbook />
    </AppFrame>
  );
}

/** A workbook is looked at first; all of it is stored, or nothing. */
function ImportWorkbook() {
  const { api, base, can } = useProgramme();
  const [file, setFile] = useState<File | null>(null);
  const [preview, setPreview] = useState<ImportPreview | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  const send = async (workbook: File, accept: string | null) => {
    setIsBusy(true);
    setProblem(null);
    const form = new FormData();
    form.set('file', workbook);
    if (accept !== null) form.set('accept', accept);
    try {
      setPreview(await sendForm<ImportPreview>(`${api}/imports`, form));
    } catch (error) {
      setProblem(toMessage(error));
    } finally {
      setIsBusy(false);
    }
  };
  const look = (workbook: File | undefined) => {
    if (!workbook) return;
    setFile(workbook);
    setPreview(null);
    void send(workbook, null);
  };
  if (!can('edit map')) return <PageTitle title="Only leads and authors import workbooks" />;
  return (
    <>
      <PageTitle title="Import a workbook" about={describe(preview)}>
        <a className="button" href={`${api}/imports/template`} download>
          <FileDown size={17} aria-hidden /> Empty template
        </a>
        {preview?.isStored ? (
          <a className="button button-primary" href={`${base}/map`}>
            See it on the map
          </a>
        ) : (
          preview &&
          file && (
            <button
              type="button"
              className="button button-primary"
              disabled={isBusy || preview.problems.length > 0 || isNothing(preview)}
              onClick={() => void send(file, preview.fingerprint)}
            >
              {isBusy ? 'Working …' : 'Take it all in'}
            </button>
          )
        )}
      </PageTitle>
      {!preview?.isStored && <DropZone isBusy={isBusy} name={file?.name ?? null} onChoose={look} />}
      {problem !== null && (
        <p role="alert" className="card mt-4 border-l-4 border-l-failed px-4 py-3 font-semibold">
          {problem} Nothing was stored.
        </p>
      )}
      {preview && <PreviewView preview={preview} />}
    </>
  );
}

const isNothing = ({ nodes, tests, scenarios }: ImportPreview) => nodes.length + tests.length + scenarios.length === 0;

function describe(preview: ImportPreview | null): string {
  if (!preview) return 'processes, tests with their steps, and scenarios';
  if (preview.isStored) return `${preview.file} is stored, all of it`;
  if (preview.problems.length > 0) return `${countOf(preview.problems.length, 'thing')} to mend in ${preview.file}; nothing is stored`;
  return isNothing(preview) ? `everything in ${preview.file} is there already` : `nothing is stored yet`;
}

interface DropZoneProps {
  readonly isBusy: boolean;
  readonly name: string | null;
  readonly onChoose: (file: File | undefined) => void;
}

function DropZone({ isBusy, name, onChoose }: DropZoneProps) {
  const input = useRef<HTMLInputElement>(null);
  const [isOver, setIsOver] = useState(false);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setIsOver(false);
    onChoose(event.dataTransfer.files[0]);
  };
  return (
    <div
      className={`card border-dashed px-6 text-center ${name === null ? 'py-12' : 'py-4'} ${isOver ? 'border-baton-wire bg-baton-tint' : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setIsOver(true);
      }}
      onDragLeave={() => setIsOver(false)}
      onDrop={drop}
    >
      <button type="button" className="button" disabled={isBusy} onClick={() => input.current?.click()}>
        <FileUp size={17} aria-hidden />{' '}
        {isBusy ? `Reading ${name ?? ''} …` : name === null ? 'Choose a workbook' : 'Choose another workbook'}
      </button>
      <p className="mt-2 text-[13px] text-soft">
        {name ?? 'or drop it here. An .xlsx file with the sheets Processes, Tests and Scenarios, up to 20 MB.'}
      </p>
      <input
        ref={input}
        type="file"
        hidden
        aria-label="Workbook"
        accept=".xlsx"
        onChange={(event) => {
          onChoose(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </div>
  );
}
