import { ViewTabs } from '../../ui/view-tabs.tsx';

export const SCENARIO_VIEWS = [
  { key: 'relay', name: 'Relay' },
  { key: 'wiring', name: 'Wiring' },
  { key: 'rows', name: 'Data rows' },
  { key: 'map', name: 'On the map' },
  { key: 'compare', name: 'Compare' },
] as const;
export type ScenarioView = (typeof SCENARIO_VIEWS)[number]['key'];

export const ScenarioTabs = ({ view }: { readonly view: ScenarioView }) => (
  <ViewTabs label="Views of the scenario" views={SCENARIO_VIEWS} view={view} />
);
