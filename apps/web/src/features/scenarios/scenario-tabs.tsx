import { useProgramme } from '../frame/programme-context.tsx';
import { toAddress } from '../../client/call.ts';
import FileDown from 'lucide-react/icons/file-down';
import Redo2 from 'lucide-react/icons/redo-2';
import Undo2 from 'lucide-react/icons/undo-2';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { ViewTabs } from '../../ui/view-tabs.tsx';
import type { ScenarioEditor } from './use-scenario.ts';

export const SCENARIO_VIEWS = [
  { key: 'relay', name: 'Relay' },
  { key: 'wiring', name: 'Wiring' },
  { key: 'rows', name: 'Data rows' },
  { key: 'map', name: 'On the map' },
  { key: 'compare', name: 'Compare' },
] as const;
export type ScenarioView = (typeof SCENARIO_VIEWS)[number]['key'];

interface ScenarioTabsProps {
  readonly editor: ScenarioEditor;
  readonly view: ScenarioView;
  /** The run that is laid over the relay; null: none is. */
  readonly run: string | null;
}

/** The views, and what holds in each of them: undo, redo, files. */
export function ScenarioTabs({ editor, view, run }: ScenarioTabsProps) {
  const { api } = useProgramme();
  return (
    <ViewTabs label="Views of the scenario" views={SCENARIO_VIEWS} view={view}>
      {editor.canEdit && (
        <>
          <button
            type="button"
            className="button button-quiet button-small"
            aria-label="Undo"
            disabled={editor.undo === null}
            onClick={() => editor.undo?.()}
          >
            <Undo2 size={16} aria-hidden />
          </button>
          <button
            type="button"
            className="button button-quiet button-small"
            aria-label="Redo"
            disabled={editor.redo === null}
            onClick={() => editor.redo?.()}
          >
            <Redo2 size={16} aria-hidden />
          </button>
        </>
      )}
      <MenuButton
        label="Take away"
        icon={<FileDown size={15} aria-hidden />}
        choices={[...listReports(api, run), ...listFiles(api, editor)]}
        isSmall
      />
    </ViewTabs>
  );
}

const FILES = [
  { key: 'book', name: 'Scenario book (PDF): relay, legs, steps, data' },
  { key: 'room', name: 'Sheet for the room (PDF)' },
  { key: 'specialist', name: 'Sheet for the specialist (PDF)' },
  { key: 'xlsx', name: 'Workbook (XLSX)' },
  { key: 'bpmn', name: 'Process with lanes (BPMN)' },
  { key: 'feature', name: 'Scenario outline (Gherkin)' },
] as const;

/** A run as it went: all its legs, values, outcomes and pictures. */
function listReports(api: string, run: string | null) {
  if (run === null) return [];
  const address = toAddress(api, 'exportRun', { params: { run } });
  return [
    { key: 'run', name: 'This run as it went, to read and to print', href: `${address}?format=html` },
    { key: 'run pdf', name: 'This run as it went (PDF)', href: `${address}?format=pdf`, isDownload: true },
  ];
}

const listFiles = (api: string, { params }: ScenarioEditor) =>
  FILES.map(({ key, name }) => ({ key, name, href: `${toAddress(api, 'exportScenario', { params })}?format=${key}`, isDownload: true }));
