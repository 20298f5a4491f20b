/** What the relay is drawn of. Units: pixels of the screen at full size. */

export interface RelayLeg {
  readonly id: string;
  readonly index: number;
  readonly lane: number;
  readonly column: number;
  readonly x: number;
  readonly y: number;
  readonly height: number;
}

export interface RelayLane {
  readonly name: string;
  readonly legs: number;
  readonly y: number;
  readonly height: number;
  readonly isFolded: boolean;
}

export interface RelayWire {
  readonly key: string;
  readonly from: string;
  readonly to: string;
  /** The values that are handed over; none: the one only waits for the other. */
  readonly values: readonly string[];
  /** Calendar days that pass before the second can start. */
  readonly waitDays: number;
  /** Where it goes, from edge to edge; the last is where it arrives. */
  readonly points: readonly (readonly [x: number, y: number])[];
  /** The same with rounded corners, as an SVG path. */
  readonly path: string;
}

export interface Relay {
  readonly lanes: readonly RelayLane[];
  readonly legs: readonly RelayLeg[];
  readonly wires: readonly RelayWire[];
  /** Left edge of each column. */
  readonly columns: readonly number[];
  readonly width: number;
  readonly height: number;
}

export const LEG = {
  width: 98,
  height: 54,
  foldedHeight: 18,
  laneWidth: 124,
  laneGap: 20,
  headHeight: 40,
  leastGap: 14,
  channel: 5,
} as const;

export interface RelayLink {
  readonly from: string;
  readonly to: string;
  readonly values: readonly string[];
  readonly waitDays: number;
}
