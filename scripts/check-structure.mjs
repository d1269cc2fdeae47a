import { cruise } from "dependency-cruiser";
import { createRequire } from "node:module";
import { ROOT } from "./lib/run.mjs";

/** The direction of dependence: no circle, no import upward. Fails too if nothing was looked at. */
const rules = createRequire(import.meta.url)("../.dependency-cruiser.cjs");
const LEAST_MODULES = 100;

process.chdir(ROOT);
const { output } = await cruise(["core/src", "contract/src", "server/src", "web/src", "e2e/src"], {
  ...rules.options,
  ruleSet: { forbidden: rules.forbidden },
  validate: true,
});
const { totalCruised, violations } = output.summary;
for (const v of violations) console.error(`${v.rule.name}: ${v.from} → ${v.to}`);
if (totalCruised < LEAST_MODULES) {
  console.error(`Only ${totalCruised} modules were looked at; at least ${LEAST_MODULES} were expected.`);
  process.exit(1);
}
console.log(`structure: ${totalCruised} modules, ${violations.length} breaches`);
process.exit(violations.length > 0 ? 1 : 0);
