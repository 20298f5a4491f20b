import { ViewTabs } from '../../../ui/view-tabs.tsx';

export const LIBRARY_VIEWS = [
  { key: 'list', name: 'All tests' },
  { key: 'look', name: 'Worth a look' },
  { key: 'personas', name: 'Personas' },
] as const;
export type LibraryView = (typeof LIBRARY_VIEWS)[number]['key'];

export const LibraryTabs = ({ view }: { readonly view: LibraryView }) => (
  <ViewTabs label="Views of the library" views={LIBRARY_VIEWS} view={view} />
);
