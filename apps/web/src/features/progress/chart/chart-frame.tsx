import type { ReactNode } from 'react';
import { useCallback, useState } from 'react';
import { MenuButton } from '../../../ui/menus/menu-button.tsx';
import { saveBlob } from '../../../ui/save-file.ts';
import { drawPng } from './draw-png.ts';

interface ChartFrameProps {
  /** Of the file that it is saved as, without its end. */
  readonly name: string;
  readonly keys: ReactNode;
  /** The chart; it gives what it is saved with. */
  readonly children: (onReady: (save: (() => string) | null) => void) => ReactNode;
}

/** A picture with what its lines mean, and a way to take it along. */
export function ChartFrame({ name, keys, children }: ChartFrameProps) {
  const [save, setSave] = useState<(() => string) | null>(null);
  const [problem, setProblem] = useState('');
  const keep = useCallback((next: (() => string) | null) => setSave(() => next), []);
  const savePng = async (svg: string) => {
    setProblem('');
    try {
      saveBlob(await drawPng(svg), `${name}.png`);
    } catch {
      setProblem('This browser could not draw it as PNG. Save it as SVG instead.');
    }
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 px-4 pt-3 text-[13px]">
        {keys}
        <span className="no-print ml-auto">
          <MenuButton
            label="Save the picture"
            isDisabled={!save}
            isSmall
            choices={[
              { key: 'svg', name: 'To scale and edit (SVG)' },
              { key: 'png', name: 'For a document (PNG)' },
            ]}
            onChoose={(format) => {
              if (!save) return;
              if (format === 'png') void savePng(save());
              else saveBlob(new Blob([save()], { type: 'image/svg+xml' }), `${name}.svg`);
            }}
          />
        </span>
        {problem !== '' && (
          <span role="alert" className="w-full font-semibold">
            {problem}
          </span>
        )}
      </div>
      {children(keep)}
    </>
  );
}

export const ChartKey = ({ className, children }: { readonly className: string; readonly children: string }) => (
  <span className="flex items-center gap-1.5 text-soft">
    <span className={`w-6 ${className}`} aria-hidden />
    {children}
  </span>
);
