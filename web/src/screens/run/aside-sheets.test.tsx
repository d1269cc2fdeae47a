import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { type AskedBody } from "@uppershed/core/procedure";
import { buildNetwork } from "@uppershed/core/watermap";
import { RunDevice } from "@uppershed/core/testing";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { LiveRun } from "../../run/use-run.ts";
import { mapOf, runOf, SETUP, show } from "../../testing/house.tsx";
import { CannotSheet, NoticedSheet } from "./aside-sheets.tsx";

afterEach(cleanup);

const map = mapOf("teasel");
const device = new RunDevice(buildNetwork(map), SETUP);
device.do({ type: "as-found", lineup: {} });
const { state } = device;
const stepOf = (id: string) => {
  const step = state.todo.find((s) => s.id === id);
  if (!step) throw new Error(id);
  return step;
};
const liveWith = (add: LiveRun["add"]): LiveRun => ({
  run: runOf(map),
  state,
  astray: [],
  waiting: 0,
  saving: 0,
  unsaved: 0,
  heldFor: undefined,
  refused: [],
  busy: false,
  add,
  addNext: () => Promise.resolve(undefined),
  movedNext: async () => new Set(),
  saysOfTurn: () => Promise.resolve([]),
});
const adder = () => vi.fn<(body: AskedBody) => Promise<string | undefined>>(async () => undefined);

describe("can't do this", () => {
  const open = async (stepId: string, add = adder()) => {
    const onClose = vi.fn<() => void>();
    await show(<CannotSheet open step={stepOf(stepId)} live={liveWith(add)} onClose={onClose} />);
    return {
      add,
      onClose,
      go: () =>
        act(async () =>
          fireEvent.click(screen.getByRole("button", { name: "Plan again without it" })),
        ),
    };
  };

  it("asks which part and why, and takes neither for granted", async () => {
    const { add, onClose, go } = await open("drain:lines");
    await go();
    expect(screen.getAllByRole("alert").map((a) => a.textContent)).toEqual([
      "Choose the part that can't be done.",
      "Say why, so that the sheet and the owner know.",
    ]);
    fireEvent.click(screen.getByRole("checkbox", { name: "Deck shower" }));
    await go();
    expect(screen.getByRole("alert").textContent).toContain("Say why");
    fireEvent.change(screen.getByLabelText("Why?"), { target: { value: "  flap rusted shut " } });
    await go();
    expect(add).toHaveBeenCalledExactlyOnceWith({
      type: "step-cannot",
      stepId: "drain:lines",
      parts: ["deck-shower"],
      reason: "flap rusted shut",
    });
    expect(onClose).toHaveBeenCalledOnce();
  });

  it("has the only part of a step chosen already, and reasons at a tap", async () => {
    const { add, go } = await open("drain:heater");
    fireEvent.click(screen.getByRole("button", { name: "Seized or broken" }));
    await go();
    expect(add).toHaveBeenCalledExactlyOnceWith({
      type: "step-cannot",
      stepId: "drain:heater",
      parts: ["heater"],
      reason: "Seized or broken",
    });
  });

  it("stays open and says so when it is not taken", async () => {
    const { onClose, go } = await open(
      "drain:heater",
      vi.fn<(body: AskedBody) => Promise<string | undefined>>(
        async () => "First: how the valves were found.",
      ),
    );
    fireEvent.click(screen.getByRole("button", { name: "Owner said no" }));
    await go();
    expect(screen.getByRole("alert").textContent).toBe("First: how the valves were found.");
    expect(onClose).not.toHaveBeenCalled();
  });
});

describe("a note or a fault", () => {
  const open = async (add = adder()) => {
    await show(
      <NoticedSheet open step={stepOf("drain:heater")} live={liveWith(add)} onClose={() => {}} />,
    );
    return {
      add,
      go: () =>
        act(async () => fireEvent.click(screen.getByRole("button", { name: "Write it down" }))),
    };
  };

  it("is a plain note where no part is named", async () => {
    const { add, go } = await open();
    await go();
    expect(screen.getByRole("alert").textContent).toBe("Say what it is.");
    fireEvent.change(screen.getByLabelText("What is it?"), { target: { value: "locker wet" } });
    await go();
    expect(add).toHaveBeenCalledExactlyOnceWith({
      type: "note",
      stepId: "drain:heater",
      text: "locker wet",
    });
  });

  it("is a fault with its severity and part, and warns of danger", async () => {
    const { add, go } = await open();
    fireEvent.change(screen.getByLabelText("What is it?"), { target: { value: "relief weeps" } });
    fireEvent.click(screen.getByRole("radio", { name: "unsafe" }));
    expect(screen.getByText(/make it safe and tell the lead/u)).toBeTruthy();
    fireEvent.change(screen.getByRole("combobox"), { target: { value: "heater" } });
    await go();
    expect(add).toHaveBeenCalledExactlyOnceWith({
      type: "noticed",
      stepId: "drain:heater",
      severity: "unsafe",
      text: "relief weeps",
      part: "heater",
    });
  });
});
