import type { End } from "@uppershed/core/watermap";

/** Where something was dropped on the drawing. */
export type Drop =
  | { readonly on: "run"; readonly run: string; readonly share: number }
  | { readonly on: "port"; readonly end: End }
  | { readonly on: "empty"; readonly x: number; readonly y: number };

/** What can be done to the drawing where it is being drawn. Coordinates are grid units. */
export interface DrawTools {
  /** Ports without a pipe, by part. */
  readonly openPorts: ReadonlyMap<string, readonly string[]>;
  readonly onMove: (id: string, dx: number, dy: number) => void;
  readonly onConnect: (from: End, to: End) => void;
  readonly onConnectToRun: (from: End, run: string, share: number) => void;
  /** A part is in the hand: the next tap says where it goes. */
  readonly held: boolean;
  readonly onDrop: (drop: Drop) => void;
}
