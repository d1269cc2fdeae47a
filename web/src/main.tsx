import "@fontsource-variable/archivo/wdth.css";
import "@xyflow/react/dist/base.css";
import "./styles.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { RouterProvider } from "react-router";
import { keepApplication, whenQuiet } from "./device/keep-application.ts";
import { router } from "./routes.tsx";
import { isFetching, makeStore } from "./store/index.ts";

const root = document.getElementById("root");
const store = makeStore();
if (root)
  createRoot(root).render(
    <StrictMode>
      <Provider store={store}>
        <RouterProvider router={router} />
      </Provider>
    </StrictMode>,
  );

if (import.meta.env.PROD)
  whenQuiet(store, () => router.state.navigation.state !== "idle" || !router.state.initialized || isFetching(store), keepApplication);
