import { cruise } from "dependency-cruiser";
import { createRequire } from "node:module";
import { ROOT } from "./lib/run.mjs";

/** The direction of dependence: no circle of modules or of folders, no import upward. Fails too if nothing was looked at. */
const rules = createRequire(import.meta.url)("../.dependency-cruiser.cjs");
const LEAST_MODULES = 100;

process.chdir(ROOT);
const ALL = ["core/src", "contract/src", "cli/src", "server/src", "web/src", "e2e/src"];
const look = async (options) =>
  (await cruise(ALL, { ...rules.options, ...options, validate: true })).output.summary;
const { totalCruised, violations: ofModules } = await look({
  ruleSet: { forbidden: rules.forbidden },
});
// Tests look where they like: folders are held against each other without them.
const { violations: ofFolders } = await look({
  ruleSet: { forbidden: rules.betweenFolders },
  exclude: { path: `${rules.options.exclude.path}|\\.test\\.tsx?$|/src/testing/` },
  metrics: true,
});
const violations = [...ofModules, ...ofFolders];
for (const v of violations) console.error(`${v.rule.name}: ${v.from} → ${v.to}`);
if (totalCruised < LEAST_MODULES) {
  console.error(
    `Only ${totalCruised} modules were looked at; at least ${LEAST_MODULES} were expected.`,
  );
  process.exit(1);
}
console.log(`structure: ${totalCruised} modules, ${violations.length} breaches`);
process.exit(violations.length > 0 ? 1 : 0);
