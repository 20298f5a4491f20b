import { useRead } from '../../client/use-read.ts';
import { EmptyView } from '../../ui/empty-view.tsx';
import { Moment } from '../../ui/moment.tsx';
import { FramedTable } from '../../ui/framed-table.tsx';

const ASK_MS = 5_000;

/** Letters that went out, that wait, or that could not be sent, with the reason. */
export function MailsView() {
  const { data } = useRead('listMails', {}, { refetchInterval: ASK_MS });
  if (!data) return <p className="text-soft">Loading …</p>;
  if (data.mails.length === 0)
    return (
      <div className="card">
        <EmptyView title="No letters yet">When a baton comes to somebody who wants to know, a letter stands here and goes out.</EmptyView>
      </div>
    );
  return (
    <FramedTable heads={['To', 'Subject', 'Written', 'Sent']}>
      {data.mails.map((mail) => (
        <tr key={mail.id}>
          <td>
            {mail.toName} <span className="text-[13px] text-soft">{mail.to}</span>
          </td>
          <td>{mail.subject}</td>
          <td className="text-[13px]">
            <Moment at={mail.at} />
          </td>
          <td className="text-[13px]">
            {mail.sentAt ? (
              <Moment at={mail.sentAt} />
            ) : mail.failures > 0 ? (
              <span className="text-failed">
                {mail.problem}; tried {mail.failures} times
              </span>
            ) : (
              'waits'
            )}
          </td>
        </tr>
      ))}
    </FramedTable>
  );
}
