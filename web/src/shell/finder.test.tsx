import type { Unit } from "@uppershed/contract";
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { Provider } from "react-redux";
import { afterEach, describe, expect, it, vi } from "vitest";
import { api } from "../store/api.ts";
import { makeStore } from "../store/index.ts";
import { unitOf } from "../testing/house.tsx";
import { Finder } from "./finder.tsx";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const unit = (id: string, name: string, owner: string): Unit => ({
  ...unitOf({ name, craft: "camper" }, id),
  owner,
});
const UNITS = [unit("1", "Bramble", "T. Arkwright"), unit("2", "Bracken", "O. Vane")];

const open = () => {
  // A server that takes its time.
  vi.stubGlobal("fetch", () => new Promise(() => {}));
  const store = makeStore();
  const found = vi.fn<(to: string) => void>();
  render(
    <Provider store={store}>
      <Finder onFound={found} />
    </Provider>,
  );
  const field = screen.getByLabelText("Name, owner, number, place or part");
  return {
    store,
    found,
    type: (text: string) => fireEvent.change(field, { target: { value: text } }),
    enter: () => fireEvent.keyDown(field, { key: "Enter" }),
  };
};
/** The server's answer to a search comes. */
const arrive = (store: ReturnType<typeof makeStore>, find: string) =>
  act(async () => {
    const units = UNITS.filter((u) => `${u.name} ${u.owner}`.toLowerCase().includes(find));
    await store.dispatch(
      api.util.upsertQueryData(
        "units",
        { limit: 8, find },
        { units, found: units.length, atLeast: false },
      ),
    );
  });

describe("the finder", () => {
  it("goes to what was typed even when Enter was pressed before the units were there", async () => {
    const { store, found, type, enter } = open();
    type("vane");
    enter();
    expect(found).not.toHaveBeenCalled();
    expect(screen.getByText("Fetching the units …")).toBeTruthy();
    await arrive(store, "vane");
    await waitFor(() => expect(found).toHaveBeenCalledWith("/units/2"));
    expect(found).toHaveBeenCalledTimes(1);
  });

  it("does not go where Enter was taken back by typing on, and says when nothing fits", async () => {
    const { store, found, type, enter } = open();
    type("bra");
    enter();
    type("brax");
    await arrive(store, "brax");
    expect(await screen.findByText("No unit of this workshop fits.")).toBeTruthy();
    enter();
    type("bramble");
    enter();
    await arrive(store, "bramble");
    await waitFor(() => expect(found.mock.calls).toEqual([["/units/1"]]));
  });
});
