import { addLoose, changePart, removePart } from "@uppershed/core/watermap";
import { describe, expect, it } from "vitest";
import { mapOf } from "../testing/house.tsx";
import { edit, type Editor, isChanged, newEditor } from "./editor.ts";

const start = newEditor(mapOf("sundew"));
const add = (state: Editor, kind: string): Editor =>
  edit(state, { do: "edit", edit: (map) => addLoose(map, kind) });

describe("the map on the bench", () => {
  it("undoes and redoes without limit, back to the very map it began with", () => {
    const many = Array.from({ length: 300 }).reduce<Editor>((state) => add(state, "tee"), start);
    expect(many.map.parts).toHaveLength(start.map.parts.length + 300);
    const back = Array.from({ length: 300 }).reduce<Editor>(
      (state) => edit(state, { do: "undo" }),
      many,
    );
    expect(back.map).toBe(start.map);
    expect(isChanged(back)).toBe(false);
    expect(edit(back, { do: "undo" })).toBe(back);
    const again = Array.from({ length: 300 }).reduce<Editor>(
      (state) => edit(state, { do: "redo" }),
      back,
    );
    expect(again.map).toBe(many.map);
    expect(edit(again, { do: "redo" })).toBe(again);
  });

  it("forgets what was undone once something else is done", () => {
    const undone = edit(add(start, "tee"), { do: "undo" });
    const other = add(undone, "elbow");
    expect(other.future).toEqual([]);
    expect(other.map.parts.at(-1)?.kind).toBe("elbow");
  });

  it("keeps the map and says why where an edit cannot be done", () => {
    const no = edit(start, { do: "edit", edit: (map) => removePart(map, "nowhere") });
    expect(no.map).toBe(start.map);
    expect(no.problem).toContain("nowhere");
    expect(no.past).toEqual([]);
  });

  it("knows the part just made, and when everything is saved", () => {
    const made = add(start, "tee");
    expect(made.made).toBe(made.map.parts.at(-1)?.id);
    const saved = edit(made, { do: "saved", map: made.map });
    expect(isChanged(saved)).toBe(false);
    expect(
      isChanged(edit(saved, { do: "edit", edit: (map) => changePart(map, "tank", { tag: "T1" }) })),
    ).toBe(true);
  });
});
