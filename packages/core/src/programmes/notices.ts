/** What a person is told by mail. Adding one: a line here, and where it is written. */
export const NOTICES = ['baton', 'fixed', 'nudge', 'defect', 'decision', 'digest', 'news'] as const;
export type Notice = (typeof NOTICES)[number];

export type NoticeWishes = Readonly<Record<Notice, boolean>>;

/** Testers have other jobs: a mail when something waits for them, and those of the morning only if they ask for them. */
export const DEFAULT_NOTICES: NoticeWishes = {
  baton: true,
  fixed: true,
  nudge: true,
  defect: true,
  decision: true,
  digest: false,
  news: false,
};
