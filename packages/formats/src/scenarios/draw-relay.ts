import { LEG } from '@kindred-baton/core/scenarios/relay';
import { layOutRelay } from '@kindred-baton/core/scenarios/lay-out-relay';
import type { Relay } from '@kindred-baton/core/scenarios/relay';
import type { ExportedScenario } from '@kindred-baton/core/scenarios/scenario-file';
import type { Markup } from '../xml/markup.ts';
import { markup, NO_MARKUP, toLines } from '../xml/markup.ts';

const NO_LANE = 'No team yet';
const CHARACTERS = 15;
const LINES = 2;

export function layOutExported({ chain, legs, file }: ExportedScenario): Relay {
  const indexOf = new Map(chain.legs.map(({ leg, index }) => [leg.id, index]));
  return layOutRelay(chain, {
    laneOf: (id) => legs[indexOf.get(id) ?? -1]?.lane ?? NO_LANE,
    waitDaysOf: (id) => file.legs[indexOf.get(id) ?? -1]?.waitDays ?? 0,
  });
}

/** Columns that stand beside one another on a page; a longer relay goes on below. */
const BAND = 11;

/** The relay as SVG, for print: lanes, legs with their numbers, hand-overs; colours that read in grey as well. A long one comes in bands. */
export function drawRelay(scenario: ExportedScenario): Markup {
  const relay = layOutExported(scenario);
  const bands = Math.max(1, Math.ceil(relay.columns.length / BAND));
  return toLines(Array.from({ length: bands }, (_, band) => drawBand(scenario, relay, band)));
}

function drawBand(scenario: ExportedScenario, relay: Relay, band: number): Markup {
  const own = relay.columns.slice(band * BAND, (band + 1) * BAND);
  const left = (own[0] ?? LEG.laneWidth) - LEG.laneWidth;
  const right = relay.columns[(band + 1) * BAND] ?? relay.width;
  const width = Math.max(right - left, LEG.laneWidth * 4);
  const isOwn = ({ x }: Relay['legs'][number]) => x >= left + LEG.laneWidth && x < right;
  return toLines([
    markup`<svg xmlns="http://www.w3.org/2000/svg" viewBox="${left} ${LEG.headHeight - 4} ${width} ${relay.height - LEG.headHeight + 8}" width="100%" preserveAspectRatio="xMinYMin meet" role="img" aria-label="The relay${band === 0 ? '' : ', continued'}" style="max-height:150mm" font-family="Atkinson Hyperlegible Next, Arial, sans-serif">`,
    ...relay.lanes.map(
      (lane, index) => markup`<rect x="${left}" y="${lane.y}" width="${width}" height="${lane.height}" fill="${getLaneColour(index)}"/>`,
    ),
    ...relay.wires.map(
      ({ path, values }) =>
        markup`<path d="${path}" fill="none" stroke="${values.length > 0 ? '#b07d10' : '#8d979c'}" stroke-width="${values.length > 0 ? 2 : 1.2}"${values.length > 0 ? NO_MARKUP : markup` stroke-dasharray="1 4" stroke-linecap="round"`}/>`,
    ),
    ...relay.lanes.map(({ name, y, height }, index) => {
      const ground = markup`<rect x="${left}" y="${y}" width="${LEG.laneWidth - 12}" height="${height}" fill="${getLaneColour(index)}"/>`;
      return markup`${ground}<text x="${left + 8}" y="${y + 24}" font-size="12.5" font-weight="700" fill="#17282f">${cut(name, 17)}</text>`;
    }),
    ...relay.wires.filter(({ waitDays }) => waitDays > 0).map(({ points, waitDays }) => drawWait(points.at(-1) ?? [0, 0], waitDays)),
    ...relay.legs.filter(isOwn).map((leg) => drawLeg(leg, scenario)),
    markup`</svg>`,
  ]);
}

const getLaneColour = (index: number) => (index % 2 === 0 ? '#f4f1e9' : '#fbf8f1');

/** Above the leg that waits. */
const drawWait = ([x, y]: readonly [number, number], days: number) =>
  markup`<text x="${x + 6}" y="${y - LEG.height / 2 - 2}" font-size="10" font-weight="700" fill="#566670">+${days} days</text>`;

function drawLeg({ x, y, index }: Relay['legs'][number], { legs }: ExportedScenario): Markup {
  const leg = legs[index];
  const isOpen = leg?.test === null;
  const lines = breakLines(`${index + 1} ${leg?.title ?? ''}`);
  const text = lines.map((line, at) => markup`<tspan x="${x + 9}" y="${y + 17 + at * 14}">${line}</tspan>`);
  return markup`${[
    markup`<rect x="${x}" y="${y}" width="${LEG.width}" height="${LEG.height}" rx="14" fill="#fffdf9" stroke="${isOpen ? '#566670' : '#17282f'}"${isOpen ? markup` stroke-dasharray="4 3"` : NO_MARKUP}/>`,
    markup`<text font-size="11" font-weight="600" fill="#17282f">${text}</text>`,
    markup`<text x="${x + 9}" y="${y + 46}" font-size="10" font-family="monospace" fill="#566670">${leg?.test?.code ?? 'open'}</text>`,
  ]}`;
}

const cut = (text: string, length: number) => (text.length > length ? `${text.slice(0, length - 1)}…` : text);

function breakLines(text: string): string[] {
  const lines: string[] = [''];
  for (const word of text.split(' ')) {
    const last = lines.at(-1) ?? '';
    if (last !== '' && last.length + word.length + 1 > CHARACTERS) lines.push(word);
    else lines[lines.length - 1] = last === '' ? word : `${last} ${word}`;
  }
  const shown = lines.slice(0, LINES).map((line) => cut(line, CHARACTERS + 1));
  if (lines.length > LINES) shown[LINES - 1] = cut(`${shown[LINES - 1]} …`, CHARACTERS + 1);
  return shown;
}
