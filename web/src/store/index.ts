import { configureStore } from "@reduxjs/toolkit";
import { QueryStatus } from "@reduxjs/toolkit/query";
import { api } from "./api.ts";

export const makeStore = () =>
  configureStore({
    reducer: { [api.reducerPath]: api.reducer },
    middleware: (base) => base().concat(api.middleware),
  });

/** Whether any answer of the server is still on its way. */
export const isFetching = (store: ReturnType<typeof makeStore>): boolean =>
  Object.values(store.getState()[api.reducerPath].queries).some(
    (q) => q?.status === QueryStatus.pending,
  );
