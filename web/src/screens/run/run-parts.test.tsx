import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { type Action, type Ask } from "@uppershed/core/procedure";
import { buildNetwork, inUseLineup, type Lineup } from "@uppershed/core/watermap";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ME, mapOf, show } from "../../testing/house.tsx";
import { controlsOf, LineupForm } from "../../lineup/lineup-form.tsx";
import { ReadingEntry } from "./reading.tsx";
import { RowTick, wordsOf } from "./row.tsx";

afterEach(cleanup);
const network = buildNetwork(mapOf("teasel"));

describe("a row to tick", () => {
  const valve: Action = {
    type: "set-valve",
    control: "v5",
    position: "shut",
    from: "open",
    label: "Heater cold in",
    tag: "V5",
    handle: "handle across",
  };

  it("is a checkbox that says the tag, the part, from where to where and how the handle lies", async () => {
    const onTick = vi.fn<(done: boolean) => void>();
    await show(
      <RowTick network={network} action={valve} ticked={false} onTick={onTick} units="metric" />,
    );
    const row = screen.getByRole("checkbox", {
      name: "V5 Heater cold in, open to shut, handle across",
    });
    expect(row.getAttribute("aria-checked")).toBe("false");
    fireEvent.click(row);
    expect(onTick).toHaveBeenCalledWith(true);
  });

  it("is locked while another comes first, says which, and what would come of it", async () => {
    const onTick = vi.fn<(done: boolean) => void>();
    const first: Action = { type: "confirm", fact: "f", label: "Pressure off" };
    await show(
      <RowTick
        network={network}
        action={valve}
        ticked={false}
        after={first}
        says={["Water runs out at D1: {m3:0.002} so far."]}
        onTick={onTick}
        units="metric"
      />,
    );
    const row = screen.getByRole("checkbox", { name: /after: Pressure off$/u });
    expect(row.getAttribute("aria-disabled")).toBe("true");
    fireEvent.click(row);
    expect(onTick).not.toHaveBeenCalled();
    expect(row.textContent).toContain("Turned now: Water runs out at D1: 2.0 L so far.");
  });

  it.each([
    [
      { type: "pump", switch: "pump", watch: "x", untilStrength: 0.433, maxM3: 1 },
      "Run until it reads 43 % or more",
    ],
    [
      { type: "pump", switch: "pump", watch: "x", untilAir: 0.9, maxM3: 1 },
      "Run until it spits and gives only air",
    ],
    [
      { type: "pump", switch: "pump", watch: "x", maxM3: 0.001, aboutM3: 0.0005 },
      "Let about 0.13 US gal run through",
    ],
    [
      { type: "pour", cell: "x", volumeM3: 0.0005, label: "Pour {m3:0.0005} slowly" },
      "Pour 0.13 US gal slowly",
    ],
    [{ type: "confirm", fact: "f", label: "Water at {c:40} or less" }, "Water at 104 °F or less"],
  ] as const)("puts %o in words, in the workshop's units", (action, words) => {
    expect(wordsOf(network, action as Action, "us").title).toBe(words);
  });

  it("names a three-way valve's positions by what they join", async () => {
    const turn: Action = {
      type: "set-valve",
      control: "v2",
      position: "b",
      from: "a",
      label: "Suction selector",
      tag: "V2",
      handle: "handle to pickup",
    };
    expect(wordsOf(network, turn, "metric")).toMatchObject({ change: "tank", to: "pickup" });
  });
});

describe("a reading", () => {
  const strength: Ask = {
    key: "s",
    kind: "strength",
    label: "Strength at the outlet",
    required: false,
    expected: 0.47,
  };
  const bucket: Ask = {
    key: "b",
    kind: "recovered",
    label: "How much came out",
    required: true,
    cell: "heater",
    expected: 0.0361,
  };
  const enter = async (words: string): Promise<void> => {
    fireEvent.change(screen.getByRole("textbox"), { target: { value: words } });
    await act(async () => fireEvent.click(screen.getByRole("button", { name: "Enter" })));
  };

  it("takes a bare number in the unit beside the field, and any other unit that is written", async () => {
    const read = vi.fn<(si: number, typed: string) => Promise<string | undefined>>(
      async () => undefined,
    );
    await show(<ReadingEntry ask={bucket} reading={undefined} onRead={read} />);
    await enter("36");
    expect(read).toHaveBeenLastCalledWith(expect.closeTo(0.036, 9), "36 L", undefined);
    await enter("9 1/2 us gal");
    expect(read).toHaveBeenLastCalledWith(
      expect.closeTo(9.5 * 3.785411784e-3, 9),
      "9 1/2 us gal",
      undefined,
    );
    expect(screen.getByText("Worked out: 36.1 L")).toBeTruthy();
  });

  it("follows the workshop's units", async () => {
    const read = vi.fn<(si: number, typed: string) => Promise<string | undefined>>(
      async () => undefined,
    );
    await show(<ReadingEntry ask={bucket} reading={undefined} onRead={read} />, {
      ...ME,
      workshop: { ...ME.workshop, units: "us" },
    });
    await enter("2");
    expect(read).toHaveBeenLastCalledWith(
      expect.closeTo(2 * 3.785411784e-3, 9),
      "2 gal",
      undefined,
    );
    expect(screen.getByText("Worked out: 9.5 US gal")).toBeTruthy();
  });

  it.each([
    ["3 psi", "a volume is asked for"],
    ["some", "does not start with a number"],
    ["1/0", "is not a number"],
  ])("says what is wrong with %s and passes nothing on", async (words, problem) => {
    const read = vi.fn<() => Promise<string | undefined>>(async () => undefined);
    await show(<ReadingEntry ask={bucket} reading={undefined} onRead={read} />);
    await enter(words);
    expect(screen.getByRole("alert").textContent).toContain(problem);
    expect(read).not.toHaveBeenCalled();
  });

  it("shows why a value was not taken, and keeps what was typed", async () => {
    await show(
      <ReadingEntry
        ask={strength}
        reading={undefined}
        onRead={async () => "A strength lies between 0 and 100 %."}
      />,
    );
    await enter("140");
    expect(screen.getByRole("alert").textContent).toBe("A strength lies between 0 and 100 %.");
    expect(screen.getByRole<HTMLInputElement>("textbox").value).toBe("140");
  });
});

describe("the lineup form", () => {
  it("asks for every control but checks, by place, and marks what differs", async () => {
    let now: Lineup = inUseLineup(network);
    const form = () => (
      <LineupForm
        network={network}
        lineup={now}
        against={{ lineup: inUseLineup(network), word: "not as in use" }}
        onChange={(next) => (now = next)}
      />
    );
    const { rerender } = await show(form());
    expect(screen.getAllByRole("radiogroup")).toHaveLength(
      network.controls.filter((c) => c.spec.role !== "check").length,
    );
    expect(screen.queryByText("not as in use")).toBeNull();
    fireEvent.click(
      screen
        .getByRole("radiogroup", { name: "V7 Bypass" })
        .querySelector('[role="radio"]') as Element,
    );
    expect(now["v7"]).toBe("open");
    rerender(form());
    expect(screen.getAllByText("not as in use")).toHaveLength(1);
    expect(controlsOf(network, now)).toEqual({ ...inUseLineup(network), v7: "open" });
  });
});
