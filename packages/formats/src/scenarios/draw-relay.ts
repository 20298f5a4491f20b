import { LEG } from '@kindred-baton/core/scenarios/relay';
import { layOutRelay } from '@kindred-baton/core/scenarios/lay-out-relay';
import type { Relay } from '@kindred-baton/core/scenarios/relay';
import type { ExportedScenario } from '@kindred-baton/core/scenarios/scenario-file';
import { escapeXml } from '../xml/escape-xml.ts';

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

/** The relay as SVG, for print: lanes, legs with their numbers, hand-overs; colours that read in grey as well. */
export function drawRelay(scenario: ExportedScenario): string {
  const relay = layOutExported(scenario);
  const { width, height } = relay;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 ${LEG.headHeight - 4} ${width} ${height - LEG.headHeight + 8}" width="100%" preserveAspectRatio="xMinYMin meet" role="img" aria-label="The relay" style="max-height:150mm" font-family="Atkinson Hyperlegible Next, Arial, sans-serif">`,
    ...relay.lanes.map(
      ({ name, y, height: tall }, index) =>
        `<rect x="0" y="${y}" width="${width}" height="${tall}" fill="${index % 2 === 0 ? '#f4f1e9' : '#fbf8f1'}"/><text x="8" y="${y + 24}" font-size="12.5" font-weight="700" fill="#17282f">${escapeXml(cut(name, 17))}</text>`,
    ),
    ...relay.wires.map(
      ({ path, values }) =>
        `<path d="${path}" fill="none" stroke="${values.length > 0 ? '#b07d10' : '#8d979c'}" stroke-width="${values.length > 0 ? 2 : 1.2}"${values.length > 0 ? '' : ' stroke-dasharray="1 4" stroke-linecap="round"'}/>`,
    ),
    ...relay.wires.filter(({ waitDays }) => waitDays > 0).map(({ points, waitDays }) => drawWait(points.at(-1) ?? [0, 0], waitDays)),
    ...relay.legs.map((leg) => drawLeg(leg, scenario)),
    '</svg>',
  ].join('\n');
}

/** Above the leg that waits. */
const drawWait = ([x, y]: readonly [number, number], days: number) =>
  `<text x="${x + 6}" y="${y - LEG.height / 2 - 2}" font-size="10" font-weight="700" fill="#566670">+${days} days</text>`;

function drawLeg({ x, y, index }: Relay['legs'][number], { legs }: ExportedScenario): string {
  const leg = legs[index];
  const isOpen = leg?.test === null;
  const lines = breakLines(`${index + 1} ${leg?.title ?? ''}`);
  const text = lines.map((line, at) => `<tspan x="${x + 9}" y="${y + 17 + at * 14}">${escapeXml(line)}</tspan>`).join('');
  return [
    `<rect x="${x}" y="${y}" width="${LEG.width}" height="${LEG.height}" rx="14" fill="#fffdf9" stroke="${isOpen ? '#566670' : '#17282f'}"${isOpen ? ' stroke-dasharray="4 3"' : ''}/>`,
    `<text font-size="11" font-weight="600" fill="#17282f">${text}</text>`,
    `<text x="${x + 9}" y="${y + 46}" font-size="10" font-family="monospace" fill="#566670">${escapeXml(leg?.test?.code ?? 'open')}</text>`,
  ].join('');
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
