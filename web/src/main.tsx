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
