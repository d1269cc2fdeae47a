import { act, cleanup, fireEvent, renderHook, screen, waitFor } from "@testing-library/react";
import { formatQuantity } from "@uppershed/core/quantity";
import {
  judge,
  simAction,
  type SimAction,
  simDo,
  simStart,
  type SimState,
} from "@uppershed/core/simulation";
import { buildNetwork, type WaterMap } from "@uppershed/core/watermap";
import { afterEach, describe, expect, it, vi } from "vitest";
import { mapOf, show } from "../testing/house.tsx";
import { ActionSheet } from "./action-sheet.tsx";
import { actionWords, outcomeWords, secondsWords } from "./say-action.ts";
import { useSandbox } from "./use-sandbox.ts";

// The worker's work, done in the test's own thread.
vi.mock("../device/beside.ts", () => ({
  besideOf: () => ({
    begin: (map: WaterMap, _: unknown, lineup: Record<string, string>) =>
      Promise.resolve(simStart(buildNetwork(map), { lineup })),
    act: (map: WaterMap, state: SimState, action: SimAction) =>
      Promise.resolve(simDo(buildNetwork(map), state, action)),
    ahead: (map: WaterMap, state: SimState) =>
      Promise.resolve(judge(buildNetwork(map), state, { do: "wait", seconds: 60 })),
  }),
}));
vi.stubGlobal("matchMedia", () => ({ matches: false }));
afterEach(cleanup);

const map = mapOf("yarrow");
const network = buildNetwork(map);
const q = (si: number, dimension: Parameters<typeof formatQuantity>[1]): string =>
  formatQuantity(si, dimension, "metric");

const ACTIONS: readonly SimAction[] = [
  { do: "turn", control: "kitchen:cold", to: "open" },
  { do: "wait", seconds: 30 },
  { do: "turn", control: "kitchen:cold", to: "shut" },
];

describe("what was done, in words", () => {
  it("names parts by tag and name, figures in the reader's units, and never an id", () => {
    const words = (action: object): string => actionWords(network, simAction.parse(action), q);
    expect(words({ do: "turn", control: "jw", to: "b" })).toMatch(/^V3, .*: /u);
    expect(words({ do: "hose", at: "inlet:mouth" })).toBe("Hose on at Supply inlet, 2.8 bar");
    expect(words({ do: "hose", at: "inlet:mouth", pa: 0 })).toBe("Hose off at Supply inlet");
    expect(words({ do: "jug", at: "jug:mouth", strength: 0.5, volumeM3: 0.01 })).toBe(
      "Jug hose in a jug of 50 %, 10.0 L in it",
    );
    expect(words({ do: "jug", at: "jug:mouth" })).toBe("Jug hose out of the jug, in the air");
    expect(words({ do: "blow", at: "inlet:mouth" })).toBe("Blow at Supply inlet, 2.8 bar");
    expect(words({ do: "wait", seconds: 7200, until: { at: "kitchen:cold", air: 0.5 } })).toBe(
      "Wait 2 h, or until it shows at Kitchen tap, cold",
    );
    for (const [action, expected] of [
      [{ do: "suck", from: "heater" }, "Suck Heater out"],
      [{ do: "fill", tank: "tank-a", volumeM3: 0.02 }, /^Fill 20\.0 L into /u],
      [
        { do: "pour", into: "trap-kitchen", volumeM3: 0.0005, strength: 0.5 },
        /^Pour 0\.50 L of 50 % into |^Pour 500 mL of 50 % into /u,
      ],
      [{ do: "dose", into: "tank-a", chlorineMg: 5000 }, /^5000 mg of free chlorine into /u],
      [{ do: "cycle", appliance: "washer" }, /^Run .* through a fill$/u],
      [{ do: "heat", heater: "heater", watts: 1400 }, "Heater on, 1400 W"],
      [{ do: "heat", heater: "heater", watts: 0 }, "Heater off"],
    ] as const)
      expect(words(action)).toMatch(expected);
  });

  it("tells how long it took and what came of it", () => {
    expect([45, 90, 600, 5400, 43_200].map(secondsWords)).toEqual([
      "45 s",
      "2 min",
      "10 min",
      "1.5 h",
      "12 h",
    ]);
    const open = simDo(network, simStart(network, { lineup: { "kitchen:cold": "open" } }), {
      do: "wait",
      seconds: 30,
    });
    if (!open.ok) throw new Error(open.problem);
    expect(outcomeWords(network, open.done, q)).toMatch(/^\d\.\d L out at Kitchen tap, cold$/u);
    const air = simDo(
      network,
      simStart(network, { lineup: { "kitchen:cold": "open", pump: "off" } }),
      simAction.parse({ do: "blow", at: "inlet" }),
    );
    if (!air.ok) throw new Error(air.problem);
    expect(outcomeWords(network, air.done, q)).toMatch(
      /\d+ parts and pipes swept, \d+ pressed only, \d+ not reached; .* left on the way/u,
    );
  });
});

describe("the sandbox", () => {
  const start = async () => {
    const hook = renderHook(() => useSandbox(map, true));
    act(() => hook.result.current.begin("in use", {}));
    await waitFor(() => expect(hook.result.current.state.first).toBeDefined());
    return hook;
  };

  it("does one action after another, each on what the last has left, and steps back", async () => {
    const { result } = await start();
    act(() => ACTIONS.forEach((a) => result.current.act(a)));
    await waitFor(() => expect(result.current.state.done).toHaveLength(3));
    expect(result.current.state.done.map((d) => d.action)).toEqual(ACTIONS);
    expect(result.current.state.done[2]?.state.clockS).toBe(30);
    act(() => result.current.back());
    await waitFor(() => expect(result.current.state.done).toHaveLength(2));
    act(() => result.current.act({ do: "wait", seconds: 10 }));
    await waitFor(() => expect(result.current.state.done).toHaveLength(3));
    expect(result.current.state.done[2]?.state.clockS).toBe(40);
    expect(result.current.state.done[2]?.state.lineup["kitchen:cold"]).toBe("open");
  });

  it("shows any moment of a step: what everything held then, and what ran", async () => {
    const { result } = await start();
    act(() => ACTIONS.slice(0, 2).forEach((a) => result.current.act(a)));
    await waitFor(() => expect(result.current.state.done).toHaveLength(2));
    act(() => result.current.look(1, 0, false));
    expect(result.current.shown?.atS).toBe(0);
    act(() => result.current.look(1, 12.3, false));
    expect(result.current.shown?.atS).toBeCloseTo(12.3, 9);
    act(() => result.current.look(1, 30, false));
    expect(result.current.shown?.atS).toBe(30);
    expect(result.current.shown?.openingM3PerS["kitchen:cold"]).toBeGreaterThan(0);
  });

  it("says why an action cannot be done, and goes on from where it was", async () => {
    const { result } = await start();
    act(() => result.current.act({ do: "turn", control: "nothing", to: "open" }));
    await waitFor(() => expect(result.current.state.problem).toBe('there is no control "nothing"'));
    act(() => result.current.act({ do: "wait", seconds: 1 }));
    await waitFor(() => expect(result.current.state.done).toHaveLength(1));
    expect(result.current.state.problem).toBeUndefined();
  });

  it("looks ahead: what two minutes would bring as things stand", async () => {
    const { result } = await start();
    act(() => result.current.act({ do: "turn", control: "D3", to: "open" }));
    await waitFor(() =>
      expect(result.current.state.ahead?.map((n) => n.code)).toContain("runs-out"),
    );
  });
});

describe("the sheet of what can be done", () => {
  const doIt = (): Promise<void> =>
    act(async () => {
      fireEvent.click(screen.getByRole("button", { name: "Do it" }));
    });

  it("makes a sound action of every job with what it proposes", async () => {
    const state: SimState = {
      ...simStart(network),
      apart: [{ run: network.map.runs[0]?.id ?? "", end: "to", jug: false }],
    };
    const done = vi.fn<(action: SimAction) => void>();
    await show(
      <ActionSheet
        network={network}
        state={state}
        first="blow"
        onDo={done}
        onClose={() => undefined}
      />,
    );
    const jobs = screen.getByLabelText("What is done");
    const all = [...jobs.querySelectorAll("option")].map((o) => o.value);
    expect(all.length).toBeGreaterThanOrEqual(12);
    for (const job of all) {
      fireEvent.change(jobs, { target: { value: job } });
      await doIt();
      const action = done.mock.lastCall?.[0];
      expect(done, job).toHaveBeenCalledTimes(all.indexOf(job) + 1);
      const tried = action && simDo(network, state, action, undefined);
      expect(tried?.ok, `${job}: ${tried && !tried.ok ? tried.problem : ""}`).toBe(true);
    }
  });

  it("blows with more air than is usual only when asked again, and never with what no unit is given", async () => {
    const done = vi.fn<(action: SimAction) => void>();
    await show(
      <ActionSheet
        network={network}
        state={simStart(network)}
        first="blow"
        onDo={done}
        onClose={() => undefined}
      />,
    );
    const press = async (bar: string): Promise<string> => {
      fireEvent.change(screen.getByRole("textbox", { name: "Regulator" }), {
        target: { value: bar },
      });
      await doIt();
      return screen.getByRole("alert").textContent;
    };
    expect(await press("3.8 bar")).toMatch(/above the house's ceiling of 3\.4 bar\. Press again/u);
    expect(await press("4.5 bar")).toMatch(/more than any unit is given: 4\.1 bar/u);
    expect(await press("4.5 bar")).toMatch(/more than any unit is given/u);
    expect(done).not.toHaveBeenCalled();
    await press("3.8 bar");
    await doIt();
    expect(done).toHaveBeenCalledWith(
      expect.objectContaining({ do: "blow", regulatorPa: 380_000 }),
    );
  });

  it("says what is wrong with a figure, and does nothing", async () => {
    const done = vi.fn<(action: SimAction) => void>();
    await show(
      <ActionSheet
        network={network}
        state={simStart(network)}
        first="hose"
        onDo={done}
        onClose={() => undefined}
      />,
    );
    fireEvent.change(screen.getByRole("textbox", { name: "Pressure" }), {
      target: { value: "a lot" },
    });
    await doIt();
    expect(screen.getByRole("alert").textContent).toMatch(/^Pressure: /u);
    expect(done).not.toHaveBeenCalled();
  });
});
