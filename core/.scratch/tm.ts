import { systemOf } from "../src/testing/random-systems.ts";
import { buildNetwork } from "../src/watermap/index.ts";
import { planWinterize, standardRequest, startPhysical } from "../src/procedure/index.ts";
import { judgePlan } from "../src/testing/checker/index.ts";
let a = 0,
  b = 0,
  c = 0;
const N = 60;
for (let s = 1; s <= N; s++) {
  let t = performance.now();
  const m = systemOf(s);
  a += performance.now() - t;
  t = performance.now();
  const n = buildNetwork(m);
  const st = startPhysical(n);
  const p = planWinterize(standardRequest(n, st));
  b += performance.now() - t;
  t = performance.now();
  judgePlan(m, st.lineup, p as any, { winterLowC: -18, strength: 0.5, burst: true });
  c += performance.now() - t;
}
console.log("make", a / N, "plan", b / N, "check", c / N);
