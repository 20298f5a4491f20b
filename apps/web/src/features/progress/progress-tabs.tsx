import { ViewTabs } from '../../ui/view-tabs.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { SliceBar } from '../boards/slice-bar.tsx';
import { TakeShown } from './take-shown.tsx';

const PROGRESS_VIEWS = [
  { key: 'where', name: 'Where we are' },
  { key: 'course', name: 'Course' },
  { key: 'teams', name: 'Teams' },
  { key: 'effort', name: 'Effort' },
  { key: 'steps', name: 'Where it goes wrong' },
  { key: 'defects', name: 'Defects' },
] as const;
type ProgressTab = (typeof PROGRESS_VIEWS)[number]['key'];

function BoardsLink() {
  const { base } = useProgramme();
  return (
    <a className="button button-small button-quiet" href={`${base}/boards`}>
      Boards
    </a>
  );
}

export const ProgressTabs = ({ view }: { readonly view: ProgressTab }) => (
  <ViewTabs label="Views of progress" views={PROGRESS_VIEWS} view={view}>
    {view !== 'where' && <TakeShown view={view} />}
    <BoardsLink />
    <SliceBar view={view} />
  </ViewTabs>
);
