import type { Ink } from "./ink.ts";

/** A tone of the drawing; screens and files give it their own colour. */
export type Tone = "pipe" | "raised" | "empty" | "ink" | "rust" | "wave" | "none" | `ink:${Ink}`;

/** One stroke or shape of a symbol, round the part's middle, px. */
export interface Stroke {
  readonly tag: "path" | "circle" | "rect" | "text";
  readonly d?: string;
  readonly x?: number;
  readonly y?: number;
  readonly w?: number;
  readonly h?: number;
  /** Radius of a circle, or of a rectangle's corners. */
  readonly r?: number;
  readonly fill: Tone;
  readonly stroke?: Tone;
  readonly width?: number;
  readonly dash?: string;
  /** Degrees. */
  readonly turn?: number;
  readonly text?: string;
  readonly size?: number;
}

export const path = (d: string, fill: Tone, width = 2, more: Partial<Stroke> = {}): Stroke => ({
  tag: "path",
  d,
  fill,
  stroke: "pipe",
  width,
  ...more,
});
export const stroke = (d: string, width = 3, more: Partial<Stroke> = {}): Stroke =>
  path(d, "none", width, more);
export const circle = (
  x: number,
  y: number,
  r: number,
  fill: Tone,
  width = 2,
  more: Partial<Stroke> = {},
): Stroke => ({
  tag: "circle",
  x,
  y,
  r,
  fill,
  stroke: "pipe",
  width,
  ...more,
});
export const rect = (
  x: number,
  y: number,
  w: number,
  h: number,
  r: number,
  fill: Tone,
  width = 2,
  more: Partial<Stroke> = {},
): Stroke => ({
  tag: "rect",
  x,
  y,
  w,
  h,
  r,
  fill,
  stroke: "pipe",
  width,
  ...more,
});
/** Text with a halo, centred on x. */
export const text = (x: number, y: number, words: string, size: number): Stroke => ({
  tag: "text",
  x,
  y,
  text: words,
  size,
  fill: "ink",
});
