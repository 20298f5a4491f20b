import { call } from '../../../client/call.ts';
import type { JobView, TestFormat } from '@kindred-baton/contracts/jobs/job';
import FileDown from 'lucide-react/icons/file-down';
import { lazy, Suspense, useState } from 'react';
import { MenuButton } from '../../../ui/menus/menu-button.tsx';
import { useNotice } from '../../../ui/notices.tsx';
import { toMessage } from '../../../client/request.ts';
import { useProgramme } from '../../frame/programme-context.tsx';

const JobDialog = lazy(() => import('./job-dialog.tsx'));

interface Choice {
  readonly key: string;
  readonly name: string;
  readonly format: TestFormat;
  readonly paper?: 'A4' | 'Letter';
}

const CHOICES: readonly Choice[] = [
  { key: 'xlsx', format: 'xlsx', name: 'Workbook (XLSX), a row a step' },
  { key: 'csv', format: 'csv', name: 'CSV, a row a step' },
  { key: 'feature', format: 'feature', name: 'Gherkin' },
  { key: 'md', format: 'md', name: 'Markdown' },
  { key: 'mjs', format: 'mjs', name: 'Script for puppeteer-core (.mjs)' },
  { key: 'json', format: 'json', name: 'Browser recording (JSON)' },
  { key: 'html', format: 'html', name: 'Printable document (HTML)' },
  { key: 'pdf', format: 'pdf', paper: 'A4', name: 'PDF, A4' },
  { key: 'pdf-letter', format: 'pdf', paper: 'Letter', name: 'PDF, Letter' },
];

/** One test is written out at once; many are work with progress, and come as one file. */
export function ExportButton({ codes }: { readonly codes: () => Promise<readonly string[]> | readonly string[] }) {
  const { api } = useProgramme();
  const notify = useNotice();
  const [job, setJob] = useState<JobView['id'] | null>(null);
  const write = async (key: string) => {
    const { format, paper = 'A4' } = CHOICES.find((choice) => choice.key === key) ?? { format: 'xlsx' as const };
    try {
      const wanted = await codes();
      const [code = ''] = wanted;
      if (wanted.length === 1) {
        const { saveFile } = await import('../../../ui/save-file.ts');
        const query = new URLSearchParams({ format, paper, code });
        await saveFile(`${api}/library/export?${query}`, `${code}.${format}`);
      } else setJob((await call(api, 'exportTests', { input: { format, paper, codes: [...wanted] } })).id);
    } catch (error) {
      notify({ kind: 'problem', text: toMessage(error) });
    }
  };
  return (
    <>
      <MenuButton
        label="Export"
        icon={<FileDown size={17} aria-hidden />}
        choices={CHOICES.map(({ key, name }) => ({ key, name }))}
        onChoose={(key) => void write(key)}
      />
      {job !== null && (
        <Suspense fallback={null}>
          <JobDialog id={job} onClose={() => setJob(null)} />
        </Suspense>
      )}
    </>
  );
}
