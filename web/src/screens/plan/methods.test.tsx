import { cleanup, fireEvent, screen, within } from "@testing-library/react";
import { METHODS, type Method, type MethodCompared } from "@uppershed/core/procedure";
import { layOut } from "@uppershed/core/watermap";
import { afterEach, describe, expect, it, vi } from "vitest";
import { mapOf, show } from "../../testing/house.tsx";
import { Methods } from "./methods.tsx";

afterEach(cleanup);

const compared = (method: Method, more: Partial<MethodCompared> = {}): MethodCompared => ({
  method,
  label: METHODS.find((m) => m.method === method)?.label ?? "",
  holdsToC: -26,
  weakest: "Galley tap",
  protects: true,
  cannot: null,
  wet: [],
  cannotTell: 0,
  antifreeze: { medianM3: 0.007, p90M3: 0.008, jugs: 2 },
  minutes: 95,
  steps: 31,
  tools: ["Refractometer, wiped and zeroed on water"],
  spring: ["antifreeze to flush out: {m3:0.009} of liquid aboard"],
  sameAs: null,
  ...more,
});

const shown = async (
  all: readonly MethodCompared[],
  more: { problem?: string; onChoose?: (m: Method) => void } = {},
) =>
  show(
    <Methods
      all={all}
      problem={more.problem}
      chosen="antifreeze"
      proposal={
        all.length === METHODS.length ? { method: "air-antifreeze", reason: "the best" } : undefined
      }
      winterLowC={-18}
      jugPrice={14.5}
      layout={layOut(mapOf("teasel"))}
      onChoose={more.onChoose ?? (() => undefined)}
    />,
  );

const five = [
  compared("antifreeze", {
    holdsToC: 0,
    protects: false,
    cannot: "Does not protect this unit: strainer stays wet; nothing passes there.",
    wet: [{ id: "strainer", name: "Strainer", holdsToC: 0, why: "full of water" }],
  }),
  compared("air-antifreeze"),
  compared("air", { cannotTell: 3, antifreeze: { medianM3: 0, p90M3: 0, jugs: 0 } }),
  compared("suction", { sameAs: "The same as the first here." }),
  compared("dry"),
];

describe("methods side by side", () => {
  it("stand on one ladder, and whichever leaves something wet says so first, on its map too", async () => {
    await shown(five);
    expect(
      screen.getByRole("listitem", { name: /^Drain, then antifreeze: holds to 0 °C, not enough/u }),
    ).toBeTruthy();
    const plain = screen.getByRole("article", { name: "Drain, then antifreeze" });
    expect(plain.textContent).toContain("29.00 by the price in the kit");
    expect(plain.textContent).toContain("Does not protect this unit: strainer");
    expect(within(plain).getByRole("img", { name: /1 parts and pipes stay wet/u })).toBeTruthy();
    expect(within(plain).getByRole("button", { name: "This is planned" })).toHaveProperty(
      "disabled",
      true,
    );
    const air = screen.getByRole("article", { name: "Air alone" });
    expect(air.textContent).toContain("3 parts, until what is not known is looked at");
    expect(within(air).getByText("none")).toBeTruthy();
    const suction = screen.getByRole("article", { name: /^Suction/u });
    expect(suction.textContent).toContain("The same as the first here.");
    expect(within(suction).queryByText("Spring owes")).toBeNull();
  });

  it("are proposed with a reason, and chosen only by hand", async () => {
    const onChoose = vi.fn<(m: Method) => void>();
    await shown(five, { onChoose });
    expect(screen.getByRole("region", { name: "Methods" }).textContent).toContain(
      "Air, then antifreeze is proposed: the best.",
    );
    expect(onChoose).not.toHaveBeenCalled();
    const way = screen.getByRole("article", { name: "Air, then antifreeze" });
    fireEvent.click(within(way).getByRole("button", { name: "Plan with this" }));
    expect(onChoose).toHaveBeenCalledWith("air-antifreeze");
  });

  it("come one after another, and say what could not be worked out", async () => {
    await shown(five.slice(0, 2));
    expect(screen.getByText("Working out 5 methods: 2 done …")).toBeTruthy();
    cleanup();
    await shown(five.slice(0, 2), { problem: "no memory" });
    expect(screen.getByText(/Only 2 of 5 methods could be worked out: no memory/u)).toBeTruthy();
  });
});
