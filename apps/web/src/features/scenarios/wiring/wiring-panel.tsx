import { SidePanel } from '../../../ui/side-panel.tsx';
import { FindingLines } from './finding-lines.tsx';
import type { ScenarioEditor } from '../use-scenario.ts';

interface WiringPanelProps {
  readonly editor: ScenarioEditor;
  readonly onChoose: (leg: string) => void;
}

/** Will the baton arrive? Every finding of the chain, errors first. */
export function WiringPanel({ editor, onChoose }: WiringPanelProps) {
  const { findings } = editor;
  return (
    <SidePanel label="Wiring">
      <div className="px-4 py-3">
        <p className="text-[13px] text-soft">Wiring</p>
        <h2 className="text-[17px] leading-6">{describeArrival(editor)}</h2>
      </div>
      {findings.length > 0 && (
        <div className="max-h-[max(320px,calc(100vh-330px))] overflow-auto border-t border-line-2 px-4 py-3">
          <FindingLines findings={findings} editor={editor} onChoose={onChoose} />
        </div>
      )}
    </SidePanel>
  );
}

export function describeArrival({ findings, legs }: ScenarioEditor): string {
  if (legs.length === 0) return 'Nothing to wire yet.';
  return findings.some(({ weight }) => weight === 'error') ? 'The baton does not arrive everywhere.' : 'Every baton arrives.';
}
