import type { NewLook } from "@uppershed/contract";
import type { InspectionPoint, LookMark } from "@uppershed/core/inspection";
import { type Dimension, parseQuantity, type UnitSystem } from "@uppershed/core/quantity";
import { useState } from "react";
import { uuid } from "../../device/uuid.ts";

// What a reading can be typed as; dates and volts go into the note.
export const DIMENSIONS: Readonly<Record<string, Dimension>> = {
  length: "length",
  pressure: "pressure",
  temperature: "temperature",
};

export type PointMarked = Pick<NewLook, "id" | "mark" | "note" | "readings">;

/** What is being said of a point and is not kept yet. */
export interface PointInHand {
  /** Under this id the look will be kept; pictures taken before are of it. */
  readonly id: string;
  readonly note: string;
  readonly setNote: (note: string) => void;
  /** What the figures of this point are; nothing where none are asked for. */
  readonly dimension: Dimension | undefined;
  readonly typed: readonly string[];
  readonly type: (index: number, words: string) => void;
  readonly problem: string | undefined;
  /** Keeps it with a mark. @returns whether it could be: a figure that cannot be read holds it up */
  readonly mark: (to: LookMark) => boolean;
}

const figuresOf = (
  typed: readonly string[],
  dimension: Dimension | undefined,
  system: UnitSystem,
): { readonly si: readonly number[] } | { readonly problem: string } => {
  const si: number[] = [];
  for (const words of typed.filter((t) => t.trim() !== "")) {
    const read = dimension ? parseQuantity(words, dimension, system) : undefined;
    if (!read?.ok) return { problem: read?.problem ?? "That is no figure." };
    si.push(read.quantity.si);
  }
  return { si };
};

/** A note, figures and a mark for a point; once marked, the next look at it begins. */
export const usePoint = (
  { look }: InspectionPoint,
  system: UnitSystem,
  onLook: (look: PointMarked) => void,
): PointInHand => {
  const [id, setId] = useState(uuid);
  const [note, setNote] = useState("");
  const dimension = look.reading && DIMENSIONS[look.reading.is];
  const none = Array.from({ length: dimension && look.reading ? look.reading.times : 0 }, () => "");
  const [typed, setTyped] = useState<readonly string[]>(none);
  const [problem, setProblem] = useState<string>();
  const mark = (to: LookMark): boolean => {
    const figures = figuresOf(typed, dimension, system);
    setProblem("problem" in figures ? figures.problem : undefined);
    if ("problem" in figures) return false;
    onLook({ id, mark: to, note, readings: [...figures.si] });
    setId(uuid());
    setNote("");
    setTyped(none);
    return true;
  };
  return {
    id,
    note,
    setNote,
    dimension,
    typed,
    type: (index, words) => setTyped((now) => now.with(index, words)),
    problem,
    mark,
  };
};
