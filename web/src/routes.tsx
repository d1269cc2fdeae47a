import { createBrowserRouter } from "react-router";
import { NotFound } from "./shell/not-found.tsx";
import { NotShown } from "./shell/not-shown.tsx";
import { Shell } from "./shell/shell.tsx";
import { Waiting } from "./ui/waiting.tsx";

/** Every screen comes when it is first opened; the bar and what all share come at once. */
export const router = createBrowserRouter([
  {
    errorElement: <NotShown />,
    hydrateFallbackElement: <Waiting />,
    children: [
      {
        path: "/sign-in",
        lazy: async () => ({
          Component: (await import("./screens/sign-in/sign-in.tsx")).SignInScreen,
        }),
      },
      {
        path: "/set-up",
        lazy: async () => ({
          Component: (await import("./screens/set-up/set-up.tsx")).SetUpScreen,
        }),
      },
      {
        path: "/join/:token",
        lazy: async () => ({ Component: (await import("./screens/join/join.tsx")).JoinScreen }),
      },
      {
        path: "/owner/:token",
        lazy: async () => ({ Component: (await import("./screens/report/owner.tsx")).OwnerPage }),
      },
      {
        element: <Shell />,
        children: [
          {
            path: "/",
            lazy: async () => ({ Component: (await import("./screens/bench/bench.tsx")).Bench }),
          },
          {
            path: "/units",
            lazy: async () => ({ Component: (await import("./screens/units/units.tsx")).Units }),
          },
          {
            path: "/units/new",
            lazy: async () => ({
              Component: (await import("./screens/new-unit/new-unit.tsx")).NewUnit,
            }),
          },
          {
            path: "/units/:unitId",
            lazy: async () => ({
              Component: (await import("./screens/unit/unit-screen.tsx")).UnitScreen,
            }),
          },
          {
            path: "/units/:unitId/map",
            lazy: async () => ({
              Component: (await import("./screens/map/map-bench.tsx")).MapBench,
            }),
          },
          {
            path: "/units/:unitId/map/revisions",
            lazy: async () => ({
              Component: (await import("./screens/compare/compare.tsx")).Compare,
            }),
          },
          {
            path: "/units/:unitId/walk",
            lazy: async () => ({ Component: (await import("./screens/walk/walk.tsx")).Walk }),
          },
          {
            path: "/units/:unitId/edit",
            lazy: async () => ({
              Component: (await import("./screens/about/edit-unit.tsx")).EditUnit,
            }),
          },
          {
            path: "/units/:unitId/gauge",
            lazy: async () => ({ Component: (await import("./screens/gauge/gauge.tsx")).Gauge }),
          },
          {
            path: "/units/:unitId/tests",
            lazy: async () => ({ Component: (await import("./screens/tests/tests.tsx")).Tests }),
          },
          {
            path: "/units/:unitId/tests/:testId",
            lazy: async () => ({
              Component: (await import("./screens/tests/test-screen.tsx")).TestScreen,
            }),
          },
          {
            path: "/units/:unitId/tests/:testId/certificate",
            lazy: async () => ({
              Component: (await import("./screens/tests/certificate.tsx")).Certificate,
            }),
          },
          {
            path: "/units/:unitId/refits",
            lazy: async () => ({ Component: (await import("./screens/refit/refits.tsx")).Refits }),
          },
          {
            path: "/units/:unitId/refits/:refitId",
            lazy: async () => ({
              Component: (await import("./screens/refit/refit-screen.tsx")).RefitScreen,
            }),
          },
          {
            path: "/units/:unitId/refits/:refitId/map",
            lazy: async () => ({
              Component: (await import("./screens/map/refit-bench.tsx")).RefitBench,
            }),
          },
          {
            path: "/units/:unitId/plan/:job",
            lazy: async () => ({
              Component: (await import("./screens/water-plan/water-plan.tsx")).WaterPlanScreen,
            }),
          },
          {
            path: "/units/:unitId/handover",
            lazy: async () => ({
              Component: (await import("./screens/handover/handover.tsx")).HandoverScreen,
            }),
          },
          {
            path: "/units/:unitId/trouble",
            lazy: async () => ({
              Component: (await import("./screens/trouble/trouble.tsx")).TroubleScreen,
            }),
          },
          {
            path: "/units/:unitId/spring",
            lazy: async () => ({
              Component: (await import("./screens/spring/spring.tsx")).SpringLookScreen,
            }),
          },
          {
            path: "/visits/new",
            lazy: async () => ({ Component: (await import("./screens/visit/book.tsx")).BookVisit }),
          },
          {
            path: "/visits/:visitId",
            lazy: async () => ({
              Component: (await import("./screens/visit/visit-screen.tsx")).VisitScreen,
            }),
          },
          {
            path: "/visits/:visitId/found",
            lazy: async () => {
              const { SnapshotScreen } = await import("./screens/visit/snapshot.tsx");
              return { element: <SnapshotScreen key="found" kind="as-found" /> };
            },
          },
          {
            path: "/visits/:visitId/left",
            lazy: async () => {
              const { SnapshotScreen } = await import("./screens/visit/snapshot.tsx");
              return { element: <SnapshotScreen key="left" kind="as-left" /> };
            },
          },
          {
            path: "/visits/:visitId/report",
            lazy: async () => ({
              Component: (await import("./screens/report/report.tsx")).ReportScreen,
            }),
          },
          {
            path: "/customers",
            lazy: async () => ({
              Component: (await import("./screens/customers/customers.tsx")).Customers,
            }),
          },
          {
            path: "/customers/:customerId",
            lazy: async () => ({
              Component: (await import("./screens/customers/customer.tsx")).CustomerScreen,
            }),
          },
          {
            path: "/workshop",
            lazy: async () => ({
              Component: (await import("./screens/people/workshop.tsx")).WorkshopScreen,
            }),
          },
          {
            path: "/workshop/rules",
            lazy: async () => ({
              Component: (await import("./screens/house/rules.tsx")).RulesScreen,
            }),
          },
          {
            path: "/workshop/places",
            lazy: async () => ({
              Component: (await import("./screens/house/places.tsx")).PlacesScreen,
            }),
          },
          {
            path: "/workshop/kit",
            lazy: async () => ({ Component: (await import("./screens/house/kit.tsx")).KitScreen }),
          },
          {
            path: "/me",
            lazy: async () => ({
              Component: (await import("./screens/account/account.tsx")).AccountScreen,
            }),
          },
          {
            path: "/findings",
            lazy: async () => ({
              Component: (await import("./screens/findings/findings.tsx")).Findings,
            }),
          },
          {
            path: "/parts",
            lazy: async () => ({ Component: (await import("./screens/parts/parts.tsx")).Parts }),
          },
          {
            path: "/reckoner",
            lazy: async () => ({
              Component: (await import("./screens/reckoner/reckoner.tsx")).Reckoner,
            }),
          },
          {
            path: "/reckoner/:name",
            lazy: async () => ({
              Component: (await import("./screens/reckoner/reckoner.tsx")).Reckoner,
            }),
          },
          {
            path: "/units/:unitId/plan",
            lazy: async () => ({
              Component: (await import("./screens/plan/plan-screen.tsx")).PlanScreen,
            }),
          },
          {
            path: "/units/:unitId/years",
            lazy: async () => ({
              Component: (await import("./screens/unit/years.tsx")).YearsScreen,
            }),
          },
          {
            path: "/units/:unitId/stay",
            lazy: async () => ({
              Component: (await import("./screens/stay/stay.tsx")).StayScreen,
            }),
          },
          {
            path: "/runs/:runId",
            lazy: async () => ({
              Component: (await import("./screens/run/run-screen.tsx")).RunScreen,
            }),
          },
          {
            path: "/records/:runId",
            lazy: async () => ({
              Component: (await import("./screens/record/record-screen.tsx")).RecordScreen,
            }),
          },
          {
            path: "/records/:runId/tag",
            lazy: async () => ({ Component: (await import("./screens/tag/tag.tsx")).TagScreen }),
          },
          { path: "*", element: <NotFound /> },
        ],
      },
    ],
  },
]);
