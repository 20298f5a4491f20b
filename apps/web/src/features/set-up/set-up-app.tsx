import { useRead } from '../../client/use-read.ts';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { PageTitle } from '../../ui/page-title.tsx';
import { ViewTabs } from '../../ui/view-tabs.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { ApplicationsView } from './applications-view.tsx';
import { HistoryView } from './history-view.tsx';
import { MailsView } from './mails-view.tsx';
import { OrderOfWork } from './order-of-work.tsx';
import { PeopleView } from './people-view.tsx';
import { ProgrammeView } from './programme-view.tsx';
import { TeamsView } from './teams-view.tsx';

const VIEWS = [
  { key: 'programme', name: 'Programme' },
  { key: 'applications', name: 'Applications and environments' },
  { key: 'teams', name: 'Teams' },
  { key: 'people', name: 'People' },
  { key: 'mails', name: 'Mail' },
  { key: 'history', name: 'Who did what' },
] as const;

export function SetUpApp({ content, ...frame }: PageProps<SetUp>) {
  return (
    <AppFrame {...frame} area={null}>
      <SetUpPage initial={content} />
    </AppFrame>
  );
}

function SetUpPage({ initial }: { readonly initial: SetUp }) {
  const { can } = useProgramme();
  const address = useAddress();
  const { data = initial } = useRead('getSetUp', {}, { initialData: initial });
  const views = VIEWS.filter(({ key }) => key !== 'history' || can('read the history'));
  const view = views.find(({ key }) => key === address.get('view'))?.key ?? 'programme';
  return (
    <>
      <PageTitle
        title={data.programme.name}
        about={`${data.teams.length} teams, ${data.people.filter(({ leftAt }) => leftAt === null).length} people, ${data.environments.length} environments`}
      />
      <OrderOfWork setUp={data} />
      <ViewTabs label="What is set up" views={views} view={view} />
      {view === 'programme' && <ProgrammeView setUp={data} />}
      {view === 'applications' && <ApplicationsView setUp={data} />}
      {view === 'teams' && <TeamsView setUp={data} />}
      {view === 'people' && <PeopleView setUp={data} />}
      {view === 'mails' && <MailsView />}
      {view === 'history' && <HistoryView setUp={data} />}
    </>
  );
}
