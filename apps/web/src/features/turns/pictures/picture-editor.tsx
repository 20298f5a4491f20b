import Konva from 'konva';
import { useEffect, useRef, useState } from 'react';
import { DialogBox } from '../../../ui/dialog.tsx';
import { toMessage } from '../../../client/request.ts';
import { blurPixels } from './blur-pixels.ts';

const TOOLS = [
  { key: 'arrow', name: 'Arrow', letter: 'A' },
  { key: 'line', name: 'Line', letter: 'L' },
  { key: 'box', name: 'Box', letter: 'B' },
  { key: 'text', name: 'Text', letter: 'T' },
  { key: 'blur', name: 'Blur', letter: 'U' },
] as const;
type Tool = (typeof TOOLS)[number]['key'];

interface PictureEditorProps {
  readonly picture: Blob;
  readonly name: string;
  readonly onClose: () => void;
  readonly onKeep: (picture: File) => Promise<void>;
}

const MOST_WIDTH = 860;
const INK = '#C44A08';
const LEAST_PIXELS = 6;

/** Draws on a picture: arrow, line, box, text, and a blur that takes the pixels away. What is kept is a new picture, with no layers. */
export function PictureEditor({ picture, name, onClose, onKeep }: PictureEditorProps) {
  // The dialog comes when it is fetched: what it holds may be here before it.
  const [holder, setHolder] = useState<HTMLDivElement | null>(null);
  const drawing = useRef<Drawing | null>(null);
  const [tool, setTool] = useState<Tool>('arrow');
  const [words, setWords] = useState('');
  const [marks, setMarks] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  useEffect(() => {
    if (!holder) return undefined;
    let isOver = false;
    void createImageBitmap(picture)
      .then((image) => {
        if (!isOver) drawing.current = createDrawing(holder, image, setMarks);
      })
      .catch(() => setProblem('This picture cannot be opened here.'));
    return () => {
      isOver = true;
      drawing.current?.destroy();
      drawing.current = null;
    };
  }, [picture, holder]);
  useEffect(() => {
    drawing.current?.use(tool, words);
  }, [tool, words, marks]);
  const keep = async () => {
    setIsBusy(true);
    try {
      const blob = await drawing.current?.toPicture();
      if (blob) await onKeep(new File([blob], name.replace(/(\.\w+)?$/, '.png'), { type: 'image/png' }));
      onClose();
    } catch (error) {
      setProblem(toMessage(error));
      setIsBusy(false);
    }
  };
  return (
    <DialogBox title="Draw on the picture" isOpen onClose={onClose} width={940}>
      <Tools tool={tool} words={words} canUndo={marks > 0} onTool={setTool} onWords={setWords} onUndo={() => drawing.current?.undo()} />
      <div ref={setHolder} className="max-h-[60vh] overflow-auto rounded-control border border-line" data-marks={marks} />
      <p className="hint mt-1">What you blur is gone from the picture for good, not only covered.</p>
      {problem !== null && (
        <p role="alert" className="mt-2 font-semibold text-failed">
          {problem}
        </p>
      )}
      <div className="mt-3 flex justify-end gap-2">
        <button type="button" className="button" onClick={onClose}>
          Cancel
        </button>
        <button type="button" className="button button-primary" disabled={isBusy || marks === 0} onClick={() => void keep()}>
          {isBusy ? 'Keeping …' : 'Keep this picture'}
        </button>
      </div>
    </DialogBox>
  );
}

interface Drawing {
  readonly use: (tool: Tool, words: string) => void;
  readonly undo: () => void;
  readonly toPicture: () => Promise<Blob>;
  readonly destroy: () => void;
}

/** The picture on a canvas of its own size, shown smaller; the marks on a layer above. Blurring changes the canvas itself. */
function createDrawing(holder: HTMLDivElement, image: ImageBitmap, onMarks: (count: number) => void): Drawing {
  const scale = Math.min(1, MOST_WIDTH / image.width);
  const canvas = window.document.createElement('canvas');
  canvas.width = image.width;
  canvas.height = image.height;
  const pixels = canvas.getContext('2d', { willReadFrequently: true });
  if (!pixels) throw new Error('This browser cannot draw.');
  pixels.drawImage(image, 0, 0);
  const stage = new Konva.Stage({
    container: holder,
    width: image.width * scale,
    height: image.height * scale,
    scaleX: scale,
    scaleY: scale,
  });
  const ground = new Konva.Layer({ listening: false });
  const layer = new Konva.Layer();
  const shown = new Konva.Image({ image: canvas });
  ground.add(shown);
  stage.add(ground, layer);
  const done: (() => void)[] = [];
  let [tool, words]: [Tool, string] = ['arrow', ''];
  let begun: { x: number; y: number; mark: Konva.Shape } | null = null;
  const width = Math.max(3, Math.round(image.width / 320));
  const add = (undo: () => void) => {
    done.push(undo);
    onMarks(done.length);
  };
  const at = () => stage.getRelativePointerPosition() ?? { x: 0, y: 0 };
  stage.on('pointerdown', () => {
    const { x, y } = at();
    if (tool === 'text') {
      if (words.trim() === '') return;
      const mark = new Konva.Text({
        x,
        y,
        text: words,
        fontSize: Math.max(16, width * 6),
        fontFamily: '"Atkinson Hyperlegible Next Variable", sans-serif',
        fontStyle: 'bold',
        fill: INK,
      });
      layer.add(mark);
      return add(() => mark.destroy());
    }
    const stroke = { stroke: INK, strokeWidth: width };
    const mark =
      tool === 'arrow'
        ? new Konva.Arrow({ points: [x, y, x, y], fill: INK, pointerLength: width * 4, pointerWidth: width * 4, ...stroke })
        : tool === 'line'
          ? new Konva.Line({ points: [x, y, x, y], ...stroke })
          : new Konva.Rect({ x, y, width: 0, height: 0, ...stroke, ...(tool === 'blur' ? { dash: [width * 2, width * 2] } : {}) });
    layer.add(mark);
    begun = { x, y, mark };
  });
  stage.on('pointermove', () => {
    if (!begun) return;
    const { x, y } = at();
    if (begun.mark instanceof Konva.Rect) begun.mark.setAttrs(toBox(begun, { x, y }));
    else begun.mark.setAttr('points', [begun.x, begun.y, x, y]);
  });
  stage.on('pointerup pointerleave', () => {
    if (!begun) return;
    const { mark } = begun;
    const to = at();
    const box = toBox(begun, to);
    begun = null;
    if (box.width < LEAST_PIXELS && box.height < LEAST_PIXELS) return void mark.destroy();
    if (!(mark instanceof Konva.Rect) || !mark.dash()?.length) return add(() => mark.destroy());
    mark.destroy();
    const before = pixels.getImageData(0, 0, canvas.width, canvas.height);
    const area = { x: Math.round(box.x), y: Math.round(box.y), width: Math.round(box.width), height: Math.round(box.height) };
    const blurred = pixels.getImageData(0, 0, canvas.width, canvas.height);
    blurPixels(blurred, area);
    pixels.putImageData(blurred, 0, 0);
    ground.batchDraw();
    add(() => {
      pixels.putImageData(before, 0, 0);
      ground.batchDraw();
    });
  });
  return {
    use: (next, text) => {
      [tool, words] = [next, text];
    },
    undo: () => {
      done.pop()?.();
      layer.batchDraw();
      onMarks(done.length);
    },
    toPicture: () =>
      stage.toBlob({ pixelRatio: 1 / scale, mimeType: 'image/png' }).then((blob) => {
        if (!(blob instanceof Blob)) throw new Error('The picture could not be made.');
        return blob;
      }),
    destroy: () => stage.destroy(),
  };
}

function toBox(from: { x: number; y: number }, to: { x: number; y: number }) {
  return { x: Math.min(from.x, to.x), y: Math.min(from.y, to.y), width: Math.abs(to.x - from.x), height: Math.abs(to.y - from.y) };
}

interface ToolsProps {
  readonly tool: Tool;
  readonly words: string;
  readonly canUndo: boolean;
  readonly onTool: (tool: Tool) => void;
  readonly onWords: (words: string) => void;
  readonly onUndo: () => void;
}

function Tools({ tool, words, canUndo, onTool, onWords, onUndo }: ToolsProps) {
  return (
    <div
      className="mb-2 flex flex-wrap items-center gap-1"
      role="toolbar"
      aria-label="Tools"
      onKeyDown={(event) => {
        const found = TOOLS.find(({ letter }) => letter.toLowerCase() === event.key);
        if (found && !(event.target instanceof HTMLInputElement)) onTool(found.key);
      }}
    >
      {TOOLS.map(({ key, name: label, letter }) => (
        <button
          key={key}
          type="button"
          aria-pressed={tool === key}
          className={`button button-small ${tool === key ? 'button-primary' : ''}`}
          onClick={() => onTool(key)}
        >
          {label} <kbd className="font-mono text-[12px] font-normal opacity-80">{letter}</kbd>
        </button>
      ))}
      {tool === 'text' && (
        <input
          className="field w-[220px]!"
          aria-label="Words to write"
          placeholder="Words, then click where"
          value={words}
          onChange={(event) => onWords(event.target.value)}
        />
      )}
      <button type="button" className="button button-quiet button-small" disabled={!canUndo} onClick={onUndo}>
        Undo
      </button>
    </div>
  );
}
