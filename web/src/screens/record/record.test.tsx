import { cleanup, screen } from "@testing-library/react";
import { applyEvent, buildNetwork, type RunEventBody, rowsOf, type RunState, startRun } from "@uppershed/core";
import { afterEach, describe, expect, it } from "vitest";
import { uuid } from "../../device/uuid.ts";
import { mapOf, ME, SETUP, show } from "../../testing/house.tsx";
import { Figures } from "./figures.tsx";
import { NotDone } from "./not-done.tsx";
import { StepsDone } from "./steps-done.tsx";

afterEach(cleanup);

/** A run of the river boat, done as planned but for what the test says. */
const runThrough = (choose: (state: RunState) => RunEventBody[] | undefined): RunState => {
  let state = startRun(buildNetwork(mapOf("plover")), SETUP);
  const add = (body: RunEventBody): void => {
    const applied = applyEvent(state, { id: uuid(), seq: state.events.length + 1, at: "2025-10-14T09:00:00.000Z", body, by: ME.person });
    if (!applied.ok) throw new Error(applied.problem);
    state = applied.state;
  };
  add({ type: "as-found", lineup: {} });
  for (let step = state.todo[0]; step; step = state.todo[0]) {
    const own = choose(state);
    for (const body of own ?? []) add(body);
    if (own?.some((b) => b.type === "step-cannot")) continue;
    for (const ask of step.asks)
      if (ask.required) add({ type: "reading", stepId: step.id, ask: ask.key, si: ask.expected ?? 20, typed: "as expected" });
    for (const row of rowsOf(step)) add({ type: "row-ticked", stepId: step.id, row: row.key, done: true });
    add({ type: "step-signed", stepId: step.id });
  }
  return state;
};

const readAll = (state: RunState): RunEventBody[] =>
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

describe("what was not done", () => {
  it("is nothing when every step was done and every outlet read", async () => {
    const state = runThrough(readAll);
    await show(<NotDone state={state} />);
    expect(screen.getByText(/Nothing was left out/u)).toBeTruthy();
  });

  it("names outlets whose strength was not read", async () => {
    await show(<NotDone state={runThrough(() => undefined)} />);
    expect(screen.getByText(/Strength not read at: .*Sink tap, cold.*worked out instead/u)).toBeTruthy();
  });

  it("names what could not be done, why, who said so, and what stays unprotected", async () => {
    const state = runThrough((now) =>
      now.todo[0]?.id === "drain:lines" && now.cannot.length === 0
        ? [{ type: "step-cannot", stepId: "drain:lines", parts: ["hand-shower"], reason: "locker jammed" }]
        : readAll(now),
    );
    const { container } = await show(<NotDone state={state} />);
    expect(container.textContent).toContain("Open every tap, drain and inlet: Hand shower; locker jammed (R. Amadi)");
    expect(container.textContent).toMatch(/Unprotected: Hand shower.*holds to 0 °C/u);
  });
});

describe("the figures of a record", () => {
  it("give what was used as measured, beside what was worked out", async () => {
    const { container } = await show(<Figures state={runThrough(readAll)} />);
    expect(container.textContent).toContain("20.8 L measured");
    expect(container.textContent).toMatch(/1\d\.\d L worked out/u);
    expect(container.textContent).toContain("lot not written down");
    expect(screen.getAllByText("46 %").length).toBeGreaterThan(4);
  });

  it("say so where nobody measured or read", async () => {
    const { container } = await show(<Figures state={runThrough(() => undefined)} />);
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
