import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { type AskedBody } from "@uppershed/core/procedure";
import { RunDevice } from "@uppershed/core/testing";
import { buildNetwork } from "@uppershed/core/watermap";
import { afterEach, describe, expect, it, vi } from "vitest";
import { mapOf, runOf, SETUP, show } from "../../testing/house.tsx";
import { StepCard } from "./step-card.tsx";

afterEach(cleanup);

const map = mapOf("teasel");
const device = new RunDevice(buildNetwork(map), SETUP);
device.do({ type: "as-found", lineup: {} });
const { state } = device;
const stepId = state.todo[0]?.id ?? "";

describe("signing the step in hand", () => {
  /** The card while something else is still on its way through the engine. */
  const busyCard = async (answers: readonly (string | undefined)[]) => {
    const left = [...answers];
    const signed: AskedBody[] = [];
    const add = vi.fn<(body: AskedBody) => Promise<string | undefined>>(async (body) => {
      signed.push(body);
      return left.shift();
    });
    const live = {
      run: runOf(map),
      state,
      astray: [],
      waiting: 0,
      saving: 0,
      unsaved: 0,
      heldFor: undefined,
      refused: [],
      busy: true,
      add,
      addNext: () => Promise.resolve(undefined),
      movedNext: async () => new Set<string>(),
      saysOfTurn: () => Promise.resolve([]),
    };
    await show(<StepCard live={live} />);
    const press = () =>
      act(async () => fireEvent.click(screen.getByRole("button", { name: "Done, next step" })));
    return { signed, press };
  };

  it("is not lost while a tick or a reading is still on its way", async () => {
    const { signed, press } = await busyCard([undefined]);
    await press();
    expect(signed).toEqual([{ type: "step-signed", stepId }]);
  });

  it("is done once, however often it is pressed, by button or by key", async () => {
    const { signed, press } = await busyCard([undefined, undefined]);
    await press();
    await press();
    await act(async () => fireEvent.keyDown(document.body, { key: "n" }));
    expect(signed).toHaveLength(1);
  });

  it("can be tried again where it was refused, with the reason until then", async () => {
    const { signed, press } = await busyCard(["Two rows are not ticked.", undefined]);
    await press();
    expect(screen.getByRole("alert").textContent).toBe("Two rows are not ticked.");
    await press();
    expect(signed).toHaveLength(2);
    expect(screen.queryByRole("alert")).toBeNull();
  });
});
