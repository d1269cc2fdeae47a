import { systemOf } from "../src/testing/random-systems.ts";
import { buildNetwork } from "../src/watermap/index.ts";
import { planWinterize, standardRequest, startPhysical } from "../src/procedure/index.ts";
import { act } from "../src/procedure/physical.ts";
import { judgePlan } from "../src/testing/checker/index.ts";
import * as J from "../src/testing/checker/judge.ts";
import { AS_DRAWN } from "../src/testing/checker/unit.ts";
const [seed, nodeArg] = process.argv.slice(2);
const m = systemOf(Number(seed));
const n = buildNetwork(m);
const st = startPhysical(n);
const p = planWinterize(standardRequest(n, st));
const j = judgePlan(m, st.lineup, p as any, { winterLowC: -18, strength: 0.5, burst: true });
const node = nodeArg ?? j.falseProtected[0]?.node ?? "";
console.log(m.craft, j.falseProtected.map((f) => f.node + " " + f.why).slice(0, 4), j.hazards, "node", node);
const cellId = node.startsWith("run ") ? node.slice(4) : node;
let ci = n.cells.findIndex((c) => c.id === node || c.id === cellId || c.ownerId === cellId);
let ph: any = st;
let last = "";
p.steps.forEach((s, k) => {
  for (const a of s.actions) ph = act(n, ph, a, 0.5).physical;
  const w = (J as any).walkThrough(m, st.lineup, { ...p, steps: p.steps.slice(0, k + 1) }, 0.5, AS_DRAWN);
  const i = w.graph.nodes.findIndex((x: any) => x.id === node);
  const e = ph.contents[ci].plugs
    .map((x: any) => ((x.waterM3 + x.glycolM3) * 1e6).toFixed(1) + "@" + ((100 * x.glycolM3) / (x.waterM3 + x.glycolM3)).toFixed(0))
    .join(",");
  const t = `${e} | chk ${(w.unit.wetM3[i] * 1e6).toFixed(1)}@${(w.unit.strength[i] * 100).toFixed(0)}`;
  if (t !== last) console.log(s.id, t, (s.antifreezeM3 * 1000).toFixed(2) + "L");
  last = t;
});
const part = node.split(":")[0].replace("run ", "");
for (const r of m.runs)
  if (r.from.part === part || r.to.part === part || r.id === part)
    console.log(
      r.id,
      r.service,
      r.lengthM,
      r.sag ? "SAG" + JSON.stringify(r.sag) : "",
      m.parts.find((x) => x.id === r.from.part)!.heightM,
      m.parts.find((x) => x.id === r.to.part)!.heightM,
    );
