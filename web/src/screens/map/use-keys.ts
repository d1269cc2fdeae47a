import { useEffect } from "react";

export interface BenchKeys {
  readonly undo: () => void;
  readonly redo: () => void;
  readonly remove: () => void;
  readonly duplicate: () => void;
  readonly save: () => void;
  readonly add: (first: string) => void;
  readonly tag: () => void;
  readonly letGo: () => void;
  readonly nudge: (dx: number, dy: number) => void;
}

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/u.test(target.tagName));

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

// Letters that mean something by themselves; any other opens the palette with itself typed.
const OWN = new Set(["l", "g", "t"]);

/** The keys of the bench. Letters open the palette; with Control they undo, redo, duplicate and save. */
export const useBenchKeys = (drawing: boolean, keys: BenchKeys): void => {
  useEffect(() => {
    const pressed = (event: KeyboardEvent): void => {
      const letter = event.key.toLowerCase();
      if (event.ctrlKey || event.metaKey) {
        if (typing(event.target) && letter !== "s") return;
        const does =
          letter === "z"
            ? event.shiftKey
              ? keys.redo
              : keys.undo
            : { y: keys.redo, d: keys.duplicate, s: keys.save }[letter];
        if (!does) return;
        event.preventDefault();
        does();
        return;
      }
      if (typing(event.target) || event.altKey || document.querySelector("[role=dialog]")) return;
      if (event.key === "Escape") keys.letGo();
      if (!drawing) return;
      const arrow = ARROWS[event.key];
      if (arrow && event.shiftKey) {
        event.preventDefault();
        keys.nudge(...arrow);
      } else if (event.key === "Delete" || event.key === "Backspace") keys.remove();
      else if (letter === "t") keys.tag();
      else if (/^[a-z]$/u.test(letter) && !OWN.has(letter)) {
        event.preventDefault();
        keys.add(letter === "a" ? "" : letter);
      }
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  });
};
