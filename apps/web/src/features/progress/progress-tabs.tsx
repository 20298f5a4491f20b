import { ViewTabs } from '../../ui/view-tabs.tsx';

const PROGRESS_VIEWS = [
  { key: 'where', name: 'Where we are' },
  { key: 'course', name: 'Course' },
  { key: 'teams', name: 'Teams' },
  { key: 'steps', name: 'Where it goes wrong' },
] as const;
type ProgressTab = (typeof PROGRESS_VIEWS)[number]['key'];

export const ProgressTabs = ({ view }: { readonly view: ProgressTab }) => (
  <ViewTabs label="Views of progress" views={PROGRESS_VIEWS} view={view} />
);
