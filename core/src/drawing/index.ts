export { type Ink, INK_WORDS, inkOf } from "./ink.ts";
export type { Stroke, Tone } from "./mark.ts";
export { middleOf, pathOf } from "./path.ts";
export { buildScene, type Scene, type ScenePart, type ScenePipe, UNIT_PX } from "./scene.ts";
export { SYMBOL_NAMES, symbolMarks } from "./symbols.ts";
