/** Inside core, each room imports only from rooms below it. */
const ROOMS = [
  "quantity",
  "fluid",
  "hydraulics",
  "watermap",
  "patterns",
  "contents",
  "flows",
  "survey",
  "simulation",
  "symptoms",
  "inspection",
  "drawing",
  "procedure",
  "refit",
  "formats",
  "reckon",
];

const roomRules = ROOMS.map((room, i) => ({
  name: `core-${room}-looks-down`,
  severity: "error",
  from: { path: `^core/src/${room}/`, pathNot: "\\.test\\.ts$" },
  to: {
    path: ROOMS.slice(i + 1)
      .map((above) => `^core/src/${above}/`)
      .concat("^core/src/(examples|testing)/"),
  },
}));

module.exports = {
  forbidden: [
    { name: "no-circles", severity: "error", from: {}, to: { circular: true } },
    {
      name: "core-is-pure",
      severity: "error",
      from: { path: "^core/src", pathNot: ["\\.test\\.ts$", "^core/src/testing/"] },
      // Zod for schemas, Papa Parse for CSV, ical.js for vCards, date-fns, seeded chance and a queue: small, pure, and no work of ours.
      to: {
        pathNot: [
          "^core/src",
          "(^|/)node_modules/(zod|papaparse|ical\\.js|date-fns|pure-rand|flatqueue)/",
        ],
      },
    },
    {
      name: "core-tests-look-at-core",
      severity: "error",
      from: { path: "^core/src" },
      to: {
        pathNot: [
          "^core/src",
          "(^|/)node_modules/(zod|papaparse|ical\\.js|date-fns|pure-rand|flatqueue|vitest|fast-check|epanet-js|highs)/",
          "^crypto$",
        ],
      },
    },
    {
      name: "testing-is-for-tests",
      severity: "error",
      from: { pathNot: ["\\.test\\.tsx?$", "^core/src/testing/", "^core/bench/", "^e2e/"] },
      to: { path: "^core/src/testing/" },
    },
    {
      name: "contract-knows-core-only",
      severity: "error",
      from: { path: "^contract/src" },
      to: { path: "^(server|web|e2e)/" },
    },
    {
      name: "cli-knows-core-only",
      severity: "error",
      from: { path: "^cli/src" },
      to: { path: "^(contract|server|web|e2e)/" },
    },
    {
      name: "server-not-web",
      severity: "error",
      from: { path: "^server/src" },
      to: { path: "^(cli|web|e2e)/" },
    },
    {
      name: "web-not-server",
      severity: "error",
      from: { path: "^web/src" },
      to: { path: "^(cli|server|e2e)/" },
    },
    {
      name: "no-screen-imports-another",
      severity: "error",
      from: { path: "^web/src/screens/([^/]+)/" },
      to: { path: "^web/src/screens/", pathNot: "^web/src/screens/$1/" },
    },
    {
      name: "plugins-share-stores-not-routes",
      severity: "error",
      from: { path: "^server/src/([^/]+)/plugin" },
      to: { path: "^server/src/[^/]+/plugin" },
    },
    {
      // What was signed never changes: the fold of a run reads what was kept, and asks no planner and no engine.
      name: "fold-plans-nothing",
      severity: "error",
      from: { path: "^core/src/procedure/run/(fold|sign|begin-run|entry-checks)\\.ts$" },
      to: {
        path: "^core/src/procedure/(winterize/|doubt|wet|fill-lineup|run/(work-out|enter|admit|summary))",
        dependencyTypesNot: ["type-only"],
      },
    },
    {
      // A planner that made plans of an earlier release is only asked for plans of that release.
      name: "frozen-planners-are-for-upgrades",
      severity: "error",
      from: {
        path: "^(server|core|contract|web)/",
        pathNot: "^server/(src/(upgrade/|run-log/frozen\\.ts)|drizzle/frozen/)",
      },
      to: { path: "^server/drizzle/frozen/" },
    },
    ...roomRules,
  ],
  betweenFolders: [
    {
      name: "no-circles-of-folders",
      severity: "error",
      scope: "folder",
      from: {},
      to: { circular: true },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.base.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
    exclude: { path: "(dist|drizzle)/" },
  },
};
