import { startingContents } from "@uppershed/core/contents";
import { applyMend, type Mend, type Problem } from "@uppershed/core/survey";
import {
  duplicate,
  inUseLineup,
  PART_KINDS,
  partOf,
  pipeRunOf,
  removePart,
  removePipeRun,
} from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import type { Halo } from "../../drawing/pipes.tsx";
import { entryId, problemKey } from "../../mapping/problem-margin.tsx";
import { type Keys, useKeys } from "../../ui/use-keys.ts";
import { dropPart, nudge, tagNext, useDrawTools } from "./bench-state.ts";
import type { Desk, OnDrawing } from "./desk.ts";
import type { MapDocument } from "./use-document.ts";

/** What the hands are about while the map is drawn. */
export interface Drawing {
  readonly onDrawing: OnDrawing;
  /** Kind of the part in the hand. */
  readonly held: string | undefined;
  readonly tagging: boolean;
  readonly turnTagging: () => void;
  /** Letters with which the palette was opened; closed without. */
  readonly palette: string | undefined;
  readonly openPalette: (letters: string | undefined) => void;
  readonly pick: (kind: string) => void;
  readonly problem: Problem | undefined;
  readonly chooseProblem: (problem: Problem | undefined) => void;
  readonly mend: (mend: Mend) => void;
  readonly letGo: () => void;
}

const NOTHING: readonly string[] = [];
// Letters that mean something by themselves; any other opens the palette with itself typed.
const OPENS_PALETTE = "(^[^lgt]$)";

const keysOf = (desk: Desk, document: MapDocument, drawing: Drawing, remove: () => void): Keys => {
  const { apply, map, selected } = desk;
  const ofPart = (does: (id: string) => void) => (event: KeyboardEvent) => {
    event.preventDefault();
    if (selected && partOf(map, selected)) does(selected);
  };
  const move = (dx: number, dy: number) => ofPart((id) => apply((now) => nudge(now, id, dx, dy)));
  const held = (does: () => void) => (event: KeyboardEvent) => {
    event.preventDefault();
    does();
  };
  return {
    "$mod+z": held(document.undo),
    "$mod+Shift+z": held(document.redo),
    "$mod+y": held(document.redo),
    "$mod+d": ofPart((id) => apply((now) => duplicate(now, id))),
    Delete: remove,
    Backspace: remove,
    Escape: drawing.letGo,
    t: drawing.turnTagging,
    [OPENS_PALETTE]: (event) => {
      if (!/^[a-z]$/iu.test(event.key)) return;
      event.preventDefault();
      const letter = event.key.toLowerCase();
      drawing.openPalette(letter === "a" ? "" : letter);
    },
    "Shift+ArrowLeft": move(-1, 0),
    "Shift+ArrowRight": move(1, 0),
    "Shift+ArrowUp": move(0, -1),
    "Shift+ArrowDown": move(0, 1),
  };
};

/** Draw mode: parts put on, moved, joined, tagged, taken away; problems looked at and mended. Its keys are its own. */
export const useDraw = (
  desk: Desk,
  document: MapDocument,
  on: boolean,
  surveyed: ReadonlyMap<string, Halo> | undefined,
): Drawing => {
  const { map, network, apply, selected, select, say } = desk;
  const [palette, openPalette] = useState<string>();
  const [held, setHeld] = useState<string>();
  const [tagging, setTagging] = useState(false);
  const [problem, setProblem] = useState<Problem>();
  const tools = useDrawTools(map, held, selected, apply, setHeld);

  // A part just made is in hand: its plate is open.
  const [made, setMade] = useState(document.editor.made);
  if (made !== document.editor.made) {
    setMade(document.editor.made);
    if (document.editor.made) select(document.editor.made);
  }

  const halos = useMemo(
    () =>
      problem ? new Map(problem.parts.map((id) => [id, { tone: "problem" as const }])) : surveyed,
    [problem, surveyed],
  );
  const contents = useMemo(() => startingContents(network), [network]);
  const lineup = useMemo(() => inUseLineup(network), [network]);

  const choose = (id: string | undefined): void => {
    setProblem(undefined);
    const tags = tagging && id !== undefined && partOf(map, id) !== undefined;
    if (tags) apply((now) => tagNext(now, id));
    select(tags ? undefined : id);
  };

  /** A part from the palette goes onto the pipe or open port that is chosen; without one it stays in the hand until it is dropped. */
  const pick = (kind: string): void => {
    openPalette(undefined);
    const label = PART_KINDS.get(kind)?.label ?? kind;
    if (selected && pipeRunOf(map, selected)) {
      apply((now) => dropPart(now, kind, { on: "run", run: selected, share: 0.5 }));
      return say(`${label} put on the pipe.`);
    }
    const port = selected ? tools.openPorts.get(selected)?.[0] : undefined;
    if (selected && port) {
      apply((now) => dropPart(now, kind, { on: "port", end: { part: selected, port } }));
      return say(`${label} put on the open port.`);
    }
    setHeld(kind);
    select(undefined);
  };

  const remove = (): void => {
    if (!selected) return;
    apply((now) =>
      partOf(now, selected) ? removePart(now, selected) : removePipeRun(now, selected),
    );
    select(undefined);
  };

  const [lookAt] = problem?.parts ?? [];
  const drawing: Drawing = {
    onDrawing: {
      lineup,
      contents,
      choose,
      draw: tools,
      near: problem?.parts ?? NOTHING,
      ...(halos ? { halos } : {}),
      ...(problem && lookAt ? { tether: { to: lookAt, entry: entryId(problemKey(problem)) } } : {}),
    },
    held,
    tagging,
    turnTagging: () => setTagging(!tagging),
    palette,
    openPalette,
    pick,
    problem,
    chooseProblem: (next) => {
      setProblem(next);
      if (next) select(undefined);
    },
    mend: (mend) => {
      apply((now) => applyMend(now, mend));
      setProblem(undefined);
    },
    letGo: () => {
      setHeld(undefined);
      setTagging(false);
      setProblem(undefined);
      select(undefined);
    },
  };
  useKeys(on, keysOf(desk, document, drawing, remove));
  return drawing;
};
