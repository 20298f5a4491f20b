import type { ProgressFileQuery } from '@kindred-baton/contracts/progress/file';
import FileDown from 'lucide-react/icons/file-down';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

const FORMATS = [
  { key: 'xlsx', name: 'This view as a workbook' },
  { key: 'csv', name: 'This view as CSV' },
];

/** A view of progress as it is looked at, to take away; what its address holds besides is not asked. */
export function TakeShown({ view }: { readonly view: ProgressFileQuery['view'] }) {
  const { api } = useProgramme();
  const { with: at } = useAddress();
  const query = at({ view, page: null }).split('?')[1] ?? '';
  const choices = FORMATS.map(({ key, name }) => ({ key, name, href: `${api}/progress/file?${query}&format=${key}`, isDownload: true }));
  return <MenuButton label="Take away" icon={<FileDown size={15} aria-hidden />} choices={choices} isSmall />;
}
