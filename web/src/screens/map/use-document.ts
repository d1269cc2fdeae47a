import { lifeKey, type PartLife } from "@uppershed/core/formats";
import type { WaterMap } from "@uppershed/core/watermap";
import { useCallback, useEffect, useMemo, useReducer, useState } from "react";
import { type Blocker, useBlocker } from "react-router";
import { edit, type Editor, isChanged, newEditor } from "../../mapping/editor.ts";
import type { Edit } from "../../mapping/part-plate.tsx";
import { problemText, usePartsQuery, useSaveMapMutation } from "../../store/api.ts";

type Lives = Readonly<Record<string, PartLife>>;

/** The map in hand with all that goes to the server with it: what was done, undone and taken in, until it is saved as a revision. */
type Saved =
  | { readonly ok: true; readonly revision: number }
  | { readonly ok: false; readonly problem: string };

export interface MapDocument {
  readonly editor: Editor;
  readonly revision: number;
  readonly changed: boolean;
  readonly apply: Edit;
  readonly undo: () => void;
  readonly redo: () => void;
  /** Lives of parts as they will be once saved. */
  readonly lives: ReadonlyMap<string, PartLife>;
  readonly takeLives: (lives: Lives) => void;
  /** The sister unit's revision up to which its changes were taken over. */
  readonly takeSibling: (revision: number) => void;
  /** @returns the revision that it was saved as; nothing where it was not taken */
  readonly save: (why: string) => Promise<Saved>;
  /** Holds whoever would leave with something unsaved. */
  readonly blocker: Blocker;
}

const NO_LIVES: Lives = {};

const useLeaveAsked = (changed: boolean, busy: boolean): Blocker => {
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent): void => {
      if (changed) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [changed]);
  return useBlocker(changed && !busy);
};

export const useMapDocument = (
  unitId: string,
  first: WaterMap,
  firstRevision: number,
  /** Where it is kept instead of as the unit's next revision: a proposal. */
  keepIn?: (map: WaterMap, why: string) => Promise<string | undefined>,
): MapDocument => {
  const { data: register } = usePartsQuery({ unit: unitId });
  const [editor, dispatch] = useReducer(edit, first, newEditor);
  const [revision, setRevision] = useState(firstRevision);
  const [pendingLives, setPendingLives] = useState(NO_LIVES);
  const [siblingRevision, takeSibling] = useState<number>();
  const [saveMap, saving] = useSaveMapMutation();
  const { map } = editor;
  const livesChanged = Object.keys(pendingLives).length > 0;
  const changed = isChanged(editor) || livesChanged;
  const blocker = useLeaveAsked(changed, saving.isLoading);

  const lives = useMemo(
    () =>
      new Map(
        (register?.parts ?? []).map(({ partId, item, life }) => {
          const key = lifeKey(partId, item);
          return [key, pendingLives[key] ?? life];
        }),
      ),
    [register, pendingLives],
  );

  const save = async (why: string): Promise<Saved> => {
    if (keepIn) {
      const problem = await keepIn(map, why);
      if (problem !== undefined) return { ok: false, problem };
      dispatch({ do: "saved", map });
      return { ok: true, revision };
    }
    const reply = await saveMap({
      id: unitId,
      asked: {
        basedOn: revision,
        why,
        document: map,
        ...(livesChanged ? { lives: pendingLives } : {}),
        ...(siblingRevision === undefined ? {} : { siblingRevision }),
      },
    });
    if (reply.error) return { ok: false, problem: problemText(reply.error) };
    setRevision(reply.data.revision);
    setPendingLives(NO_LIVES);
    takeSibling(undefined);
    dispatch({ do: "saved", map });
    return { ok: true, revision: reply.data.revision };
  };

  return {
    editor,
    revision,
    changed,
    apply: useCallback<Edit>((how) => dispatch({ do: "edit", edit: how }), []),
    undo: () => dispatch({ do: "undo" }),
    redo: () => dispatch({ do: "redo" }),
    lives,
    takeLives: (next) => setPendingLives((now) => ({ ...now, ...next })),
    takeSibling,
    save,
    blocker,
  };
};
