import { judgeSystem } from "../src/testing/safety.ts";
import { systemOf } from "../src/testing/random-systems.ts";
const [from, n] = process.argv.slice(2).map(Number) as [number, number];
let shown = 0,
  over = 0,
  bad = 0;
const t0 = performance.now();
const kinds = new Map<string, number>();
for (let s = from; s < from + n; s++) {
  const r = judgeSystem(s);
  if (r.failure) {
    console.log("FAIL", s, r.failure.slice(0, 300));
    continue;
  }
  const j = r.judged!;
  shown += j.shown;
  over += j.overCautious.length;
  if (j.falseProtected.length || j.hazards.length) {
    bad++;
    if (bad <= 60)
      console.log(
        s,
        systemOf(s).parts.length,
        "FALSE",
        j.falseProtected.length,
        j.falseProtected
          .slice(0, 2)
          .map((f) => f.node + " " + f.why)
          .join(" | "),
        "HAZ",
        j.hazards
          .slice(0, 2)
          .map((h) => h.step + ": " + h.what)
          .join(" | "),
      );
  }
}
console.log({ shown, over, share: over / shown, bad, msPer: (performance.now() - t0) / n });
