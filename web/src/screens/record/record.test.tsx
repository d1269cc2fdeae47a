import { cleanup, screen } from "@testing-library/react";
import { type AskedBody, type Astray, type RunState } from "@uppershed/core/procedure";
import { buildNetwork } from "@uppershed/core/watermap";
import { RunDevice } from "@uppershed/core/testing";
import { afterEach, describe, expect, it } from "vitest";
import { mapOf, SETUP, show } from "../../testing/house.tsx";
import { AgainToday, ClocksAhead, AstrayEntries } from "./beside.tsx";
import { Figures } from "./figures.tsx";
import { NotDone } from "./not-done.tsx";
import { StepsDone } from "./steps-done.tsx";

afterEach(cleanup);

/** A run of the river boat, done as planned but for what the test says. */
const runThrough = (choose: (state: RunState) => AskedBody[] | undefined): RunState => {
  const device = new RunDevice(buildNetwork(mapOf("plover")), SETUP);
  device.do({ type: "as-found", lineup: {} });
  for (let step = device.state.todo[0]; step; step = device.state.todo[0]) {
    const own = choose(device.state);
    for (const body of own ?? []) device.do(body);
    if (own?.some((b) => b.type === "step-cannot")) continue;
    for (const ask of step.asks)
      if (ask.required)
        device.do({
          type: "reading",
          stepId: step.id,
          ask: ask.key,
          si: ask.expected ?? 20,
          typed: "as expected",
        });
    device.tickAll();
    device.do({ type: "step-signed", stepId: step.id });
  }
  return device.state;
};

const readAll = (state: RunState): AskedBody[] =>
  (state.todo[0]?.asks ?? [])
    .filter((a) => !a.required)
    .map((ask) => {
      const [si, typed] =
        ask.kind === "strength"
          ? [0.46, "46 %"]
          : ask.kind === "antifreeze-in"
            ? [0.025, "25 L"]
            : ask.kind === "antifreeze-left"
              ? [0.0042, "4.2 L"]
              : [ask.expected ?? 0, "as expected"];
      return { type: "reading", stepId: state.todo[0]?.id ?? "", ask: ask.key, si, typed };
    });

const WHEN = {
  unitId: "00000000-0000-4000-8000-0000000000cc",
  begun: "2025-10-14T08:00:00.000Z",
} as const;

describe("what was not done", () => {
  it("is nothing when every step was done and every outlet read", async () => {
    const state = runThrough(readAll);
    await show(<NotDone state={state} />);
    expect(screen.getByText(/Nothing was left out/u)).toBeTruthy();
  });

  it("names outlets whose strength was not read", async () => {
    await show(<NotDone state={runThrough(() => undefined)} />);
    expect(
      screen.getByText(/Strength not read at: .*Sink tap, cold.*worked out instead/u),
    ).toBeTruthy();
  });

  it("names what could not be done, why, who said so, and what stays unprotected", async () => {
    const state = runThrough((now) =>
      now.todo[0]?.id === "drain:lines" && now.cannot.length === 0
        ? [
            {
              type: "step-cannot",
              stepId: "drain:lines",
              parts: ["hand-shower"],
              reason: "locker jammed",
            },
          ]
        : readAll(now),
    );
    const { container } = await show(<NotDone state={state} />);
    expect(container.textContent).toContain(
      "Open every tap, drain and inlet: Hand shower; locker jammed (R. Amadi)",
    );
    expect(container.textContent).toMatch(/Unprotected: Hand shower.*holds to 0 °C/u);
  });
});

describe("the figures of a record", () => {
  it("give what was used as measured, beside what was worked out", async () => {
    const { container } = await show(<Figures state={runThrough(readAll)} {...WHEN} />);
    expect(container.textContent).toContain("20.8 L measured");
    expect(container.textContent).toMatch(/1\d\.\d L worked out/u);
    expect(container.textContent).toContain("lot not written down");
    expect(screen.getAllByText("46 %").length).toBeGreaterThan(4);
  });

  it("say so where nobody measured or read", async () => {
    const { container } = await show(<Figures state={runThrough(() => undefined)} {...WHEN} />);
    expect(container.textContent).toContain("what was left was not measured");
    expect(screen.getByText("strength not read")).toBeTruthy();
  });

  it("list every signed step with who and when", async () => {
    const state = runThrough(readAll);
    const { container } = await show(<StepsDone state={state} />);
    expect(container.querySelectorAll("tbody tr")).toHaveLength(state.done.length);
    expect(screen.getAllByText(/^R. Amadi, /u)).toHaveLength(state.done.length);
  });
});

describe("beside a record", () => {
  it("stand the entries that have no effect, in words, with who, when and why", async () => {
    const by = { id: "p", name: "T. Brookes", role: "apprentice" };
    const at = "2025-10-14T09:10:00.000Z";
    const astray: Astray[] = [
      {
        entry: { id: "1", seq: 3, at, by, body: { type: "note", text: "rain" } },
        code: "closed",
        problem: "It came above {c:40}.",
      },
      {
        entry: { id: "2", at, by, type: "blown", problem: "" },
        code: "unread",
        problem: "Not known here.",
      },
    ];
    await show(<AstrayEntries astray={astray} />);
    expect(
      screen.getByRole("heading", { name: "2 entries have no effect on this signed sheet" }),
    ).toBeTruthy();
    const [note, other] = screen.getAllByRole("listitem").map((li) => li.textContent);
    expect(note).toMatch(/^note “rain”, T\. Brookes, 14 Oct 2025 .*: It came above 40 °C\.$/u);
    expect(other).toMatch(/^an entry of the kind “blown”, T\. Brookes.*Not known here\.$/u);
  });

  it("stands how far a device's clock was out", async () => {
    const { container } = await show(<ClocksAhead aheadS={{ a: 10_800, b: -60 }} />);
    expect(container.textContent).toContain("up to 3:00 h ahead at 2 entries");
  });

  it("stands what the engine says today only where that is something else", async () => {
    const state = runThrough(readAll);
    const { container, rerender } = await show(<AgainToday state={state} />);
    expect(container.textContent).toBe("");
    const { unit } = state;
    if (!unit) throw new Error("nothing was said");
    rerender(
      <AgainToday
        state={{ ...state, unit: { ...unit, verdict: { ...unit.verdict, holdsToC: -3 } } }}
      />,
    );
    expect(container.textContent).toMatch(/^Worked out again today: holds to −\d/u);
  });
});
