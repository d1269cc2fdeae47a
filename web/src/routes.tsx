import { createBrowserRouter } from "react-router";
import { EditUnit } from "./screens/about/edit-unit.tsx";
import { Bench } from "./screens/bench/bench.tsx";
import { Compare } from "./screens/compare/compare.tsx";
import { CustomerScreen } from "./screens/customers/customer.tsx";
import { Customers } from "./screens/customers/customers.tsx";
import { Findings } from "./screens/findings/findings.tsx";
import { Gauge } from "./screens/gauge/gauge.tsx";
import { MapBench } from "./screens/map/map-bench.tsx";
import { NewUnit } from "./screens/new-unit/new-unit.tsx";
import { Parts } from "./screens/parts/parts.tsx";
import { PlanScreen } from "./screens/plan/plan-screen.tsx";
import { Reckoner } from "./screens/reckoner/reckoner.tsx";
import { RecordScreen } from "./screens/record/record-screen.tsx";
import { OwnerPage } from "./screens/report/owner.tsx";
import { ReportScreen } from "./screens/report/report.tsx";
import { RunScreen } from "./screens/run/run-screen.tsx";
import { SignInScreen } from "./screens/sign-in/sign-in.tsx";
import { SpringLookScreen } from "./screens/spring/spring.tsx";
import { UnitScreen } from "./screens/unit/unit-screen.tsx";
import { Units } from "./screens/units/units.tsx";
import { BookVisit } from "./screens/visit/book.tsx";
import { SnapshotScreen } from "./screens/visit/snapshot.tsx";
import { VisitScreen } from "./screens/visit/visit-screen.tsx";
import { Walk } from "./screens/walk/walk.tsx";
import { NotFound } from "./shell/not-found.tsx";
import { Shell } from "./shell/shell.tsx";

export const router = createBrowserRouter([
  { path: "/sign-in", element: <SignInScreen /> },
  { path: "/owner/:token", element: <OwnerPage /> },
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
      { path: "/units/:unitId/edit", element: <EditUnit /> },
      { path: "/units/:unitId/gauge", element: <Gauge /> },
      { path: "/units/:unitId/spring", element: <SpringLookScreen /> },
      { path: "/visits/new", element: <BookVisit /> },
      { path: "/visits/:visitId", element: <VisitScreen /> },
      { path: "/visits/:visitId/found", element: <SnapshotScreen key="found" kind="as-found" /> },
      { path: "/visits/:visitId/left", element: <SnapshotScreen key="left" kind="as-left" /> },
      { path: "/visits/:visitId/report", element: <ReportScreen /> },
      { path: "/customers", element: <Customers /> },
      { path: "/customers/:customerId", element: <CustomerScreen /> },
      { path: "/findings", element: <Findings /> },
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
