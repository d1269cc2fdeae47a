import { createBrowserRouter } from "react-router";
import { Bench } from "./screens/bench/bench.tsx";
import { PlanScreen } from "./screens/plan/plan-screen.tsx";
import { RecordScreen } from "./screens/record/record-screen.tsx";
import { RunScreen } from "./screens/run/run-screen.tsx";
import { SignInScreen } from "./screens/sign-in/sign-in.tsx";
import { UnitScreen } from "./screens/unit/unit-screen.tsx";
import { Units } from "./screens/units/units.tsx";
import { NotFound } from "./shell/not-found.tsx";
import { Shell } from "./shell/shell.tsx";

export const router = createBrowserRouter([
  { path: "/sign-in", element: <SignInScreen /> },
  {
    element: <Shell />,
    children: [
      { path: "/", element: <Bench /> },
      { path: "/units", element: <Units /> },
      { path: "/units/:unitId", element: <UnitScreen /> },
      { path: "/units/:unitId/plan", element: <PlanScreen /> },
      { path: "/runs/:runId", element: <RunScreen /> },
      { path: "/records/:runId", element: <RecordScreen /> },
      { path: "*", element: <NotFound /> },
    ],
  },
]);
