import { eq } from 'drizzle-orm';
import type { MapGapsView, MapWayView } from '@kindred-baton/contracts/scenarios/reuse';
import type { NodeId } from '@kindred-baton/core/ids';
import type { MapPlace } from '@kindred-baton/core/scenarios/follow-map';
import { findMapGaps, followMap } from '@kindred-baton/core/scenarios/follow-map';
import { countTests } from '../map/count-tests.ts';
import type { Tree } from '../map/load-tree.ts';
import { getPath, loadTree } from '../map/load-tree.ts';
import type { Query } from '../operation.ts';
import { legs, scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { findScenarioId } from './get-scenario.ts';
import { loadChains } from './load-chains.ts';

const toPlaces = ({ nodes }: Tree): MapPlace[] =>
  nodes.map(({ node }) => ({ id: node.id, parentId: node.parentId, code: node.code, name: node.name, isRetired: node.isRetired }));
const toCoded = ({ code, name }: { readonly code: string; readonly name: string }) => ({ code, name });

/** The way of a scenario over the map: what it passes, what it leaves out there, where its order differs. */
export const getMapWay: Query<string, MapWayView> = {
  right: 'read',
  read: async (context, code) => {
    const id = await findScenarioId(context, code);
    const [{ tree, scenarios: loaded }, testsAt] = await Promise.all([loadChains(context, [id]), countTests(context)]);
    const followed = (loaded[0]?.legs ?? []).map(({ test, view }, index) => ({ index, title: view.title, nodeId: test?.nodeId ?? null }));
    return {
      processes: followMap(followed, toPlaces(tree)).map(({ node, activities, reversals }) => ({
        node: toCoded(node),
        activities: activities.map((activity) => ({
          node: toCoded(activity.node),
          legs: activity.legs.map((index) => index + 1),
          tests: testsAt.get(activity.node.id as NodeId) ?? 0,
        })),
        reversals: reversals.map(({ leg, after }) => ({ leg: leg + 1, after: after + 1 })),
      })),
    };
  },
};

/** Streams with no scenario, and activities at which no leg of one stands. */
export const getMapGaps: Query<void, MapGapsView> = {
  right: 'read',
  read: async (context) => {
    const [tree, testsAt, reached] = await Promise.all([
      loadTree(context),
      countTests(context),
      context.db
        .selectDistinct({ nodeId: tests.nodeId })
        .from(legs)
        .innerJoin(scenarios, eq(scenarios.id, legs.scenarioId))
        .innerJoin(tests, eq(tests.id, legs.testId))
        .where(eq(scenarios.programmeId, context.actor.programmeId)),
    ]);
    const places = toPlaces(tree);
    const gaps = findMapGaps(places, new Set(reached.map(({ nodeId }) => nodeId)));
    const toGap = (place: MapPlace) => ({
      ...toCoded(place),
      path: getPath(tree, place.id as NodeId)
        .slice(0, -1)
        .map(({ node }) => node.name),
      tests: testsAt.get(place.id as NodeId) ?? 0,
    });
    const parents = new Set(places.map(({ parentId }) => parentId));
    return {
      streams: gaps.streams.map(toGap),
      activities: gaps.activities.map(toGap),
      allActivities: places.filter(({ id, isRetired }) => !isRetired && !parents.has(id)).length,
    };
  },
};
