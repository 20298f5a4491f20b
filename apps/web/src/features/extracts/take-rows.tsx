import type { RowKind } from '@kindred-baton/core/extracts/row-kinds';
import { getRowKindLabel, ROW_KIND_NAMES } from '@kindred-baton/core/extracts/row-kinds';
import FileDown from 'lucide-react/icons/file-down';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

interface TakeRowsProps {
  /** Cycles, scope and filters, as the address of a list of turns has them. */
  readonly query: Readonly<Record<string, string>>;
  /** The address of what is shown itself, without its format; left out: it is these rows. */
  readonly shown?: string;
}

/** What defects have of a turn's filters. */
const OF_DEFECTS: readonly string[] = ['cycle', 'scope', 'team'];

const FORMATS = [
  { format: 'xlsx', kind: 'turns', word: 'a workbook' },
  { format: 'csv', kind: null, word: 'CSV' },
  { format: 'jsonl', kind: 'steps', word: 'JSON lines' },
] as const;

const SHOWN = [
  { format: 'xlsx', word: 'a workbook' },
  { format: 'csv', word: 'CSV' },
] as const;

/** What is looked at as rows, one flat sheet, ready to pivot; and where to have an address that is always new. */
export function TakeRows({ query, shown }: TakeRowsProps) {
  const { api, base } = useProgramme();
  const kinds = ROW_KIND_NAMES.filter((kind) => kind !== 'defects' || Object.keys(query).every((name) => OF_DEFECTS.includes(name)));
  const toHref = (kind: RowKind, format: string) => `${api}/extracts/${kind}?${new URLSearchParams({ ...query, format })}`;
  const files = FORMATS.flatMap(({ format, kind: only, word }) =>
    (only === null ? kinds : [only]).map((kind) => ({
      ...{ key: `${kind} ${format}`, name: `${getRowKindLabel(kind)} as ${word}` },
      ...{ href: toHref(kind, format), isDownload: true },
    })),
  );
  const own = (shown === undefined ? [] : SHOWN).map(({ format, word }) => ({
    ...{ key: `shown ${format}`, name: `This table as ${word}` },
    ...{ href: `${shown}${shown?.includes('?') ? '&' : '?'}format=${format}`, isDownload: true },
  }));
  return (
    <MenuButton
      label="Data"
      icon={<FileDown size={17} aria-hidden />}
      choices={[...own, ...files, { key: 'address', name: 'An address that is always new …', href: `${base}/me#data` }]}
    />
  );
}
