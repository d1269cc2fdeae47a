import "@fontsource-variable/archivo/wdth.css";
import "@xyflow/react/dist/base.css";
import "./styles.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { RouterProvider } from "react-router";
import { router } from "./routes.tsx";
import { makeStore } from "./store/index.ts";

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <Provider store={makeStore()}>
        <RouterProvider router={router} />
      </Provider>
    </StrictMode>,
  );

// Where the browser has no service workers, or the page is not served securely, everything works but a reload without a signal.
if (import.meta.env.PROD && "serviceWorker" in navigator) void navigator.serviceWorker.register("/sw.js").catch(() => undefined);
