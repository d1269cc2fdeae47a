import { describe, expect, it } from "vitest";
import {
  type CellId,
  cellId,
  type ControlKey,
  controlKey,
  openingId,
  type PartId,
  pipeCellId,
  type PipeRunId,
} from "./ids.ts";

describe("ids", () => {
  it("of one kind are not taken for those of another by whoever checks the types", () => {
    const part: PartId = "heater";
    const run: PipeRunId = "r1";
    // @ts-expect-error a part is no cell
    const cell: CellId = part;
    // @ts-expect-error a run of pipe is no part
    const other: PartId = run;
    // @ts-expect-error a part is no control
    const control: ControlKey = part;
    // @ts-expect-error of a part no pipe's cell is made
    const pipe = pipeCellId(part);
    expect([cell, other, control, pipe]).toEqual([part, run, part, part]);
  });

  it("are made of what they are of, a cell's always with its name", () => {
    expect(cellId("heater", "vessel")).toBe("heater:vessel");
    expect(openingId("heater", "plug")).toBe("heater:plug");
    expect(pipeCellId("r1")).toBe("r1");
    expect([controlKey("v5", "main"), controlKey("galley", "cold")]).toEqual(["v5", "galley:cold"]);
  });
});
