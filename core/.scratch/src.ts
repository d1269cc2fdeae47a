import { systemOf } from "../src/testing/random-systems.ts";
import { buildNetwork } from "../src/watermap/index.ts";
import { planWinterize, standardRequest, startPhysical } from "../src/procedure/index.ts";
import * as J from "../src/testing/checker/judge.ts";
import { spreadFrom, sourcesOf } from "../src/testing/checker/pumping.ts";
import { AS_DRAWN } from "../src/testing/checker/unit.ts";
const [seed, stepId] = process.argv.slice(2);
const m = systemOf(Number(seed));
const n = buildNetwork(m);
const st = startPhysical(n);
const p = planWinterize(standardRequest(n, st));
const k = p.steps.findIndex((s) => s.id === stepId);
const s = p.steps[k]!;
const cut = s.actions.findIndex((a) => a.type === "pump" || a.type === "push-by-hand");
console.log(s.actions);
const w = (J as any).walkThrough(
  m,
  st.lineup,
  { ...p, steps: [...p.steps.slice(0, k), { ...s, actions: s.actions.slice(0, cut) }] },
  0.5,
  AS_DRAWN,
);
const a = s.actions[cut] as any;
const e = w.graph.edges.find((e: any) => e.pump === a.switch);
if (e) console.log(sourcesOf(w.graph, w.unit, e.a).map((x: any) => x.hole.id + " via " + x.way.map((c: number) => w.graph.nodes[c].id)));
const f = spreadFrom(w.graph, w.unit, e ? e.b : w.graph.nodes.findIndex((x: any) => x.id === a.cell || x.owner === a.cell), new Set())!;
console.log(f.holes.map((h: any) => [h.hole.id, h.share.toFixed(4)]));
