import { systemOf } from "../src/testing/random-systems.ts";
import { buildNetwork, removePart } from "../src/watermap/index.ts";
import { planWinterize, standardRequest, startPhysical } from "../src/procedure/index.ts";
import { act, situationOf } from "../src/procedure/physical.ts";
import { findFlow } from "../src/contents/index.ts";
const [seed, part, cell] = process.argv.slice(2);
const m = systemOf(Number(seed));
const n = buildNetwork(m);
const st = startPhysical(n);
const p = planWinterize(standardRequest(n, st));
const stuck = part!.includes("=") ? Object.fromEntries([part!.split("=")]) : undefined;
const r = part === "-" || stuck ? { ok: true, map: m } : (removePart(m, part!) as any);
console.log("removed", r.ok, r.problem);
const w = r.map;
const n2 = w === m ? n : buildNetwork(w);
let ph: any = startPhysical(n2, stuck ?? {});
let last = "";
console.log(
  p.cannotTell
    .map((d) => d.id + "<" + d.because)
    .join(" ")
    .slice(0, 600),
);
for (const s of p.steps)
  for (const a of s.actions as any[]) {
    if (a.type === "set-valve" && (stuck?.[a.control] !== undefined || !n2.controls.some((c) => c.key === a.control))) continue;
    if (a.type === "pump" && s.stage === "fill") {
      const f: any = findFlow(situationOf(n2, ph), { kind: "pump", switchKey: a.switch });
      if (last !== "F")
        console.log(
          s.id,
          f.ok
            ? f.flow.opening.filter((o: any) => o.share !== 0).map((o: any) => o.at.id + ":" + o.at.use + " " + o.share.toFixed(3))
            : f.reason,
        );
    }
    const e = act(n2, ph, a, 0.5, { byEye: true });
    ph = e.physical;
    const c = JSON.stringify(
      ph.contents[n2.cellIndex.get(cell as any)!]?.plugs.map((x: any) => [(x.waterM3 * 1e6).toFixed(2), (x.glycolM3 * 1e6).toFixed(2)]),
    );
    if (c !== last) {
      console.log(s.id, a.type, c, e.push?.outcome, e.push?.drawnM3);
      last = c;
    }
  }
