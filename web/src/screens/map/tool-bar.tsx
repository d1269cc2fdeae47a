import { FileDown, Plus, Redo2, Save, Tag, Undo2 } from "lucide-react";
import { SHOWN, type Shown } from "../../mapping/halos.ts";
import { Button } from "../../ui/button.tsx";
import { capital } from "../../ui/words.ts";
import type { BenchSheet } from "./bench-sheets.tsx";
import type { MapDocument } from "./use-document.ts";
import type { Drawing } from "./use-draw.ts";

export type BenchMode = "draw" | "try" | "lineups";
const MODES: readonly (readonly [BenchMode, string])[] = [
  ["draw", "Draw"],
  ["try", "Try"],
  ["lineups", "Lineups"],
];

/** What can be done on the bench, in one row over the drawing. */
export const ToolBar = ({
  mode,
  onMode,
  shown,
  onShown,
  document,
  drawing,
  onSheet,
}: {
  mode: BenchMode;
  onMode: (mode: BenchMode) => void;
  shown: Shown;
  onShown: (shown: Shown) => void;
  document: MapDocument;
  drawing: Drawing;
  onSheet: (sheet: BenchSheet) => void;
}) => (
  <div
    role="toolbar"
    aria-label="Map bench"
    className="flex flex-wrap items-center gap-2 border-b border-line bg-paper px-3 py-2"
  >
    <div role="group" aria-label="What taps do" className="flex">
      {MODES.map(([name, label]) => (
        <button
          key={name}
          type="button"
          aria-pressed={mode === name}
          onClick={() => onMode(name)}
          className={`min-h-11 border-[1.5px] border-green px-4 text-[15px] font-semibold first:rounded-l last:rounded-r ${mode === name ? "bg-green text-on-green" : "bg-raised text-green"}`}
        >
          {label}
        </button>
      ))}
    </div>
    {mode === "draw" && (
      <>
        <Button onClick={() => drawing.openPalette("")} aria-keyshortcuts="a">
          <Plus aria-hidden size={18} /> Add a part
        </Button>
        <Button
          onClick={drawing.turnTagging}
          aria-pressed={drawing.tagging}
          aria-keyshortcuts="t"
          look={drawing.tagging ? "act" : "plain"}
        >
          <Tag aria-hidden size={18} /> Tag valves
        </Button>
        <Button
          onClick={document.undo}
          disabled={document.editor.past.length === 0}
          aria-label="Undo"
          title="Undo"
          aria-keyshortcuts="Control+Z"
          look="quiet"
        >
          <Undo2 aria-hidden size={20} />
        </Button>
        <Button
          onClick={document.redo}
          disabled={document.editor.future.length === 0}
          aria-label="Do again"
          title="Do again"
          aria-keyshortcuts="Control+Y"
          look="quiet"
        >
          <Redo2 aria-hidden size={20} />
        </Button>
      </>
    )}
    <label className="ml-auto flex items-center gap-2 text-[14px]">
      <span className="hidden text-muted lg:inline">Show</span>
      <select
        aria-label="Show"
        className="field"
        value={shown}
        onChange={(e) => onShown(e.target.value as Shown)}
      >
        {SHOWN.map((what) => (
          <option key={what} value={what}>
            {capital(what)}
          </option>
        ))}
      </select>
    </label>
    <Button onClick={() => onSheet("files")}>
      <FileDown aria-hidden size={18} /> Files
    </Button>
    <Button
      look="act"
      onClick={() => onSheet("save")}
      disabled={!document.changed}
      aria-keyshortcuts="Control+S"
    >
      <Save aria-hidden size={18} /> Save
    </Button>
  </div>
);
