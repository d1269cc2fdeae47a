import { createBrowserRouter } from "react-router";
import { Bench } from "./screens/bench/bench.tsx";
import { Compare } from "./screens/compare/compare.tsx";
import { MapBench } from "./screens/map/map-bench.tsx";
import { NewUnit } from "./screens/new-unit/new-unit.tsx";
import { Parts } from "./screens/parts/parts.tsx";
import { PlanScreen } from "./screens/plan/plan-screen.tsx";
import { Reckoner } from "./screens/reckoner/reckoner.tsx";
import { RecordScreen } from "./screens/record/record-screen.tsx";
import { RunScreen } from "./screens/run/run-screen.tsx";
import { SignInScreen } from "./screens/sign-in/sign-in.tsx";
import { UnitScreen } from "./screens/unit/unit-screen.tsx";
import { Units } from "./screens/units/units.tsx";
import { Walk } from "./screens/walk/walk.tsx";
import { NotFound } from "./shell/not-found.tsx";
import { Shell } from "./shell/shell.tsx";

export const router = createBrowserRouter([
  { path: "/sign-in", element: <SignInScreen /> },
  {
    element: <Shell />,
    children: [
      { path: "/", element: <Bench /> },
      { path: "/units", element: <Units /> },
      { path: "/units/new", element: <NewUnit /> },
      { path: "/units/:unitId", element: <UnitScreen /> },
      { path: "/units/:unitId/map", element: <MapBench /> },
      { path: "/units/:unitId/map/revisions", element: <Compare /> },
      { path: "/units/:unitId/walk", element: <Walk /> },
      { path: "/parts", element: <Parts /> },
      { path: "/reckoner", element: <Reckoner /> },
      { path: "/reckoner/:name", element: <Reckoner /> },
      { path: "/units/:unitId/plan", element: <PlanScreen /> },
      { path: "/runs/:runId", element: <RunScreen /> },
      { path: "/records/:runId", element: <RecordScreen /> },
      { path: "*", element: <NotFound /> },
    ],
  },
]);
