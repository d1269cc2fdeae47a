import { configureStore } from "@reduxjs/toolkit";
import { api } from "./api.ts";

export const makeStore = () =>
  configureStore({ reducer: { [api.reducerPath]: api.reducer }, middleware: (base) => base().concat(api.middleware) });
