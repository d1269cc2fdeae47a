import { api } from "./api.ts";
import type { makeStore } from "./index.ts";

type Store = ReturnType<typeof makeStore>;

const once = { subscribe: false } as const;

/** Asks for what the screen of an address shows first, while the screen itself is still on its way. */
export const askAhead = (store: Store, address: string): void => {
  const [, what, id = "", screen] = address.split("/");
  if (what === "units" && id !== "" && id !== "new") {
    void store.dispatch(api.endpoints.unit.initiate(id, once));
    // The map bench asks for the newest itself.
    if (screen === undefined) {
      void store.dispatch(api.endpoints.map.initiate(id, once));
      void store.dispatch(api.endpoints.standing.initiate({ id }, once));
    }
  }
  if (what === "runs" && id !== "") void store.dispatch(api.endpoints.run.initiate(id, once));
};
