import type { JobView, TestFormat } from '@kindred-baton/contracts/jobs/job';
import FileDown from 'lucide-react/icons/file-down';
import { useState } from 'react';
import { MenuButton } from '../../ui/menu-button.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { sendJson, toMessage } from '../../ui/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import { JobDialog } from './job-dialog.tsx';

const FORMATS: readonly { readonly key: TestFormat; readonly name: string }[] = [
  { key: 'xlsx', name: 'Workbook (XLSX), a row a step' },
  { key: 'csv', name: 'CSV, a row a step' },
  { key: 'feature', name: 'Gherkin' },
  { key: 'md', name: 'Markdown' },
  { key: 'html', name: 'Printable document (HTML)' },
  { key: 'pdf', name: 'PDF' },
];

/** One test is written out at once; many are work with progress, and come as one file. */
export function ExportButton({ codes }: { readonly codes: () => Promise<readonly string[]> | readonly string[] }) {
  const { api } = useProgramme();
  const notify = useNotice();
  const [job, setJob] = useState<JobView['id'] | null>(null);
  const write = async (format: string) => {
    try {
      const wanted = await codes();
      if (wanted.length === 1) location.href = `${api}/library/export?format=${format}&code=${encodeURIComponent(wanted[0] ?? '')}`;
      else setJob((await sendJson<{ id: JobView['id'] }>('POST', `${api}/library/export`, { format, codes: wanted })).id);
    } catch (error) {
      notify({ kind: 'problem', text: toMessage(error) });
    }
  };
  return (
    <>
      <MenuButton label="Export" icon={<FileDown size={17} aria-hidden />} choices={FORMATS} onChoose={(format) => void write(format)} />
      {job !== null && <JobDialog id={job} onClose={() => setJob(null)} />}
    </>
  );
}
