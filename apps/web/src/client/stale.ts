import type { Topic } from '@kindred-baton/contracts/events';
import type { RouteName } from '@kindred-baton/contracts/routes';
import { CLIENT_ROUTES } from './routes.generated.ts';

/** What a change touches. */
export const listTopics = (name: RouteName): readonly Topic[] => CLIENT_ROUTES[name][2];

/** Whether something that was read is out of date once these topics have changed. Keys begin with the name of their route. */
export function isStale(key: readonly unknown[], topics: readonly Topic[]): boolean {
  const [name] = key;
  return typeof name === 'string' && name in CLIENT_ROUTES && listTopics(name as RouteName).some((topic) => topics.includes(topic));
}
