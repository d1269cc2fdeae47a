import "@xyflow/react/dist/base.css";
import "./styles.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { RouterProvider } from "react-router";
import { keepApplication, whenQuiet } from "./device/keep-application.ts";
import { router } from "./routes.tsx";
import { api } from "./store/api.ts";
import { askAhead } from "./store/ask-ahead.ts";
import { isFetching, makeStore } from "./store/index.ts";

const root = document.getElementById("root");
const store = makeStore();
// Who is at it is asked while the first screen is still on its way.
if (!/^\/(?:owner|join|set-up|sign-in)/u.test(window.location.pathname))
  void store.dispatch(api.endpoints.me.initiate());
askAhead(store, window.location.pathname);
if (root)
  createRoot(root).render(
    <StrictMode>
      <Provider store={store}>
        <RouterProvider router={router} />
      </Provider>
    </StrictMode>,
  );

const SHORTLY_MS = 100;
const isBusy = (): boolean =>
  router.state.navigation.state !== "idle" || !router.state.initialized || isFetching(store);
// The application's own letters are as large as half of it: where they have to come by a line first, what is to be read comes before them.
const fetchFonts = (): void => void import("@fontsource-variable/archivo/wdth.css");
if (import.meta.env.PROD && !navigator.serviceWorker?.controller)
  whenQuiet(store, isBusy, fetchFonts, SHORTLY_MS);
else fetchFonts();
if (import.meta.env.PROD) whenQuiet(store, isBusy, keepApplication);
