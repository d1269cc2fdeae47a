import type { Edited, WaterMap } from "@uppershed/core/watermap";

/** The map on the bench with everything that can be undone and done again. Maps are never changed, so history costs little. */
export interface Editor {
  readonly past: readonly WaterMap[];
  readonly map: WaterMap;
  readonly future: readonly WaterMap[];
  /** As it was last saved. */
  readonly saved: WaterMap;
  /** What could not be done, in words. */
  readonly problem: string | undefined;
  /** The part that the last edit made. */
  readonly made: string | undefined;
}

export type EditorAction =
  | { readonly do: "edit"; readonly edit: (map: WaterMap) => Edited | WaterMap }
  | { readonly do: "undo" }
  | { readonly do: "redo" }
  | { readonly do: "saved"; readonly map: WaterMap }
  | { readonly do: "load"; readonly map: WaterMap };

export const newEditor = (map: WaterMap): Editor => ({
  past: [],
  map,
  future: [],
  saved: map,
  problem: undefined,
  made: undefined,
});

const isEdited = (result: Edited | WaterMap): result is Edited => "ok" in result;

export const edit = (state: Editor, action: EditorAction): Editor => {
  switch (action.do) {
    case "edit": {
      const result = action.edit(state.map);
      if (isEdited(result) && !result.ok)
        return { ...state, problem: result.problem, made: undefined };
      const map = isEdited(result) ? (result.ok ? result.map : state.map) : result;
      const made = isEdited(result) && result.ok ? result.part : undefined;
      if (map === state.map) return { ...state, problem: undefined, made };
      return {
        ...state,
        past: [...state.past, state.map],
        map,
        future: [],
        problem: undefined,
        made,
      };
    }
    case "undo": {
      const before = state.past.at(-1);
      if (!before) return state;
      return {
        ...state,
        past: state.past.slice(0, -1),
        map: before,
        future: [state.map, ...state.future],
        problem: undefined,
        made: undefined,
      };
    }
    case "redo": {
      const [next, ...future] = state.future;
      if (!next) return state;
      return {
        ...state,
        past: [...state.past, state.map],
        map: next,
        future,
        problem: undefined,
        made: undefined,
      };
    }
    case "saved":
      return { ...state, saved: action.map };
    case "load":
      return newEditor(action.map);
  }
};

export const isChanged = (state: Editor): boolean => state.map !== state.saved;
