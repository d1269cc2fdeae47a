import {
  bothMaps,
  buriedParts,
  expansions,
  inOneGo,
  pipeFamilies,
  REPIPE_IN,
  repiped,
} from "@uppershed/core/refit";
import { applyMend, type Mend, surveyMap } from "@uppershed/core/survey";
import { buildNetwork, changePart, type WaterMap } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import type { Halo } from "../../drawing/pipes.tsx";
import { Differences } from "../../mapping/differences.tsx";
import { differenceHalos } from "../../mapping/halos.ts";
import { useDrawn } from "../../mapping/use-drawn.ts";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital } from "../../ui/words.ts";
import type { OfRefit } from "./of-refit.ts";

const REACHABLE = ["behind a removable wall", "behind a hatch"] as const;

/** What is drawn in one go: a way round a heater, all pressed pipe of one family in another. */
const InOneGo = ({ unitId, refitId, here }: OfRefit) => {
  const { q } = useUnits();
  const enter = useRefitEntry(unitId, refitId);
  const families = useMemo(() => pipeFamilies(here.proposed), [here.proposed]);
  const [from, setFrom] = useState<string>();
  const [to, setTo] = useState<(typeof REPIPE_IN)[number]>("copper-size tube");
  const [problem, setProblem] = useState<string>();
  const draws = useMemo(() => inOneGo(here.proposed), [here.proposed]);
  const draw = async (how: (typeof draws)[number]): Promise<void> => {
    const done = how.draw(here.proposed);
    setProblem(
      done.ok
        ? await enter({
            type: "drawn",
            document: done.map,
            basedOn: here.revision,
            why: how.label,
          })
        : done.problem,
    );
  };
  const family = families.find((f) => f.family === from)?.family ?? families[0]?.family;
  if (!family) return null;
  return (
    <section aria-label="Drawn in one go" className="mt-4">
      <h2 className="text-[16px] font-bold">Drawn in one go</h2>
      {draws.map((d) => (
        <Button key={d.label} className="mr-2 mt-1" onClick={() => void draw(d)}>
          {d.label}
        </Button>
      ))}
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <label className="text-[14px]">
          All of
          <select className="field ml-1" value={family} onChange={(e) => setFrom(e.target.value)}>
            {families.map((f) => (
              <option key={f.family} value={f.family}>
                {f.family}, {q(f.lengthM, "length")}
              </option>
            ))}
          </select>
        </label>
        <label className="text-[14px]">
          in
          <select
            className="field ml-1"
            value={to}
            onChange={(e) => setTo(REPIPE_IN.find((f) => f === e.target.value) ?? to)}
          >
            {REPIPE_IN.map((f) => (
              <option key={f} value={f}>
                {f}
              </option>
            ))}
          </select>
        </label>
        <Button
          disabled={family === to}
          onClick={() =>
            void enter({
              type: "drawn",
              document: repiped(here.proposed, family, to),
              basedOn: here.revision,
              why: `All ${family} in ${to}`,
            }).then(setProblem)
          }
        >
          Draw it so
        </Button>
      </div>
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
    </section>
  );
};

/** What the proposal lacks, each with what one tap would do; put into the proposal, not into the unit. */
const Missing = ({ unitId, refitId, here, mayDraw }: OfRefit & { mayDraw: boolean }) => {
  const { text } = useUnits();
  const enter = useRefitEntry(unitId, refitId);
  const [problem, setProblem] = useState<string>();
  const { proposed, revision } = here;
  const { guards, closed, buried } = useMemo(() => {
    const network = buildNetwork(proposed);
    return {
      guards: surveyMap(proposed, network).problems.filter(
        (p) => p.severity === "wrong" || p.severity === "guard",
      ),
      buried: buriedParts(proposed),
      // A check at the heater asks where its water grows to.
      closed: expansions(network).filter((e) => e.closed && e.takenM3 < e.growsM3),
    };
  }, [proposed]);
  const keep = async (document: WaterMap, why: string): Promise<void> =>
    setProblem(await enter({ type: "drawn", document, basedOn: revision, why }));
  const put = async (mend: Mend): Promise<void> => {
    const done = applyMend(proposed, mend);
    if (done.ok) await keep(done.map, mend.label);
    else setProblem(done.problem);
  };
  const free = async (partId: string, access: string): Promise<void> => {
    const done = changePart(proposed, partId, { access });
    if (done.ok) await keep(done.map, `Made reachable: ${access}`);
    else setProblem(done.problem);
  };
  if (guards.length + closed.length + buried.length === 0) return null;
  return (
    <section aria-label="What it lacks" className="mt-4">
      <h2 className="text-[16px] font-bold">What it lacks</h2>
      <ul>
        {guards.map((p) => (
          <li
            key={`${p.code} ${p.parts.join(" ")}`}
            className="border-t border-line py-2 text-[14px]"
          >
            {text(p.message)}
            {mayDraw && p.mends.length > 0 && (
              <span className="mt-1 flex flex-wrap gap-2">
                {p.mends.map((m) => (
                  <Button key={m.label} onClick={() => void put(m)}>
                    {m.label}
                  </Button>
                ))}
              </span>
            )}
          </li>
        ))}
        {buried.map((b) => (
          <li key={`buried ${b.part}`} className="border-t border-line py-2 text-[14px]">
            {b.name} would stand {b.access}: what cannot be reached is not done, in the cold least
            of all.
            {mayDraw && (
              <span className="mt-1 flex flex-wrap gap-2">
                {REACHABLE.map((access) => (
                  <Button key={access} onClick={() => void free(b.part, access)}>
                    {capital(access)}
                  </Button>
                ))}
              </span>
            )}
          </li>
        ))}
        {closed.map((e) => (
          <li key={e.heater} className="border-t border-line py-2 text-[14px]">
            {e.name}: a check shuts it in, the pump&apos;s own or one at its inlet. From 10 to 60 °C
            its water grows by {text(`{m3:${e.growsM3}}`)}
            {e.takenM3 > 0 && `, of which ${text(`{m3:${e.takenM3}}`)} has room`}: the relief drips
            at every heating, or an accumulator of {text(`{m3:${e.accumulatorM3}}`)} on its side
            takes it (worked out, 45 to 75 psi, charged to 40).
          </li>
        ))}
      </ul>
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
    </section>
  );
};

/** As it is and as it would be, on one drawing: new, gone, changed, kept, each with its sign. */
export const DrawingView = (of: OfRefit & { mayDraw: boolean }) => {
  const { here } = of;
  const [selected, setSelected] = useState<string>();
  const both = useMemo(() => bothMaps(here.today, here.proposed), [here.today, here.proposed]);
  const drawn = useDrawn(both);
  const halos = useMemo(
    () =>
      new Map<string, Halo>([
        ...differenceHalos(here.differences),
        ...here.differences.flatMap<[string, Halo]>((d) =>
          d.change === "removed" ? [[d.id, { tone: "problem", text: "−" }]] : [],
        ),
      ]),
    [here.differences],
  );
  return (
    <div className="grid gap-x-6 lg:grid-cols-[minmax(0,1fr)_360px]">
      <div className="relative h-[62dvh] min-h-[360px] overflow-hidden rounded border border-line">
        {drawn ? (
          <MapDrawing
            network={drawn.network}
            scene={drawn.scene}
            halos={halos}
            selected={selected}
            onSelect={setSelected}
            legend={
              <p className="rounded bg-paper/90 px-2 py-1 text-[13px]">
                <b>+</b> new, <b>−</b> taken out, <b>~</b> changed; without a sign: stays as it is
              </p>
            }
          />
        ) : (
          <Waiting />
        )}
      </div>
      <div className="lg:max-h-[62dvh] lg:overflow-y-auto">
        <h2 className="text-[16px] font-bold">What is to change</h2>
        <Differences list={here.differences} onChoose={setSelected} />
        <Missing {...of} mayDraw={of.mayWork && of.mayDraw} />
        {of.mayWork && of.mayDraw && <InOneGo {...of} />}
      </div>
    </div>
  );
};
