import { liquidIn, volumeOf } from "@uppershed/core/contents";
import { type RunState } from "@uppershed/core/procedure";
import { heatersOf } from "@uppershed/core/watermap";
import { useMemo } from "react";
import { useUnits } from "../../ui/units.ts";
import { useNow } from "../../ui/use-now.ts";
import { clock } from "../../ui/words.ts";
import { Big, Meter } from "./meter.tsx";

const MINUTE = 60_000;
const PROVED_FROM = 0.95;

/** How full each heater is, and what says so. */
const heatersNow = (state: RunState): { name: string; share: number; proved: boolean }[] =>
  heatersOf(state.network).map(({ part, cell }) => ({
    name: part.name,
    share:
      volumeOf(liquidIn(state.physical.contents[cell])) /
      Math.max(state.network.cells[cell]?.capacityM3 ?? 0, 1e-9),
    proved: state.physical.facts.includes(`full:${part.id}`),
  }));

const volumeSoFar = (state: RunState, type: "fill" | "dose"): number =>
  state.done
    .flatMap((d) => d.step.actions)
    .reduce(
      (sum, a) =>
        sum +
        (a.type === "fill" && type === "fill" ? a.volumeM3 : 0) +
        (a.type === "dose" && type === "dose" ? a.bottleM3 : 0),
      0,
    );

/** The strip of live meters of a spring or a sanitizing: water, dose, heater, clock. */
export const WaterMeters = ({ state, startedAt }: { state: RunState; startedAt: string }) => {
  const { q, parts } = useUnits();
  const now = useNow(MINUTE / 4);
  const { firstPlan } = state;
  const heaters = useMemo(() => heatersNow(state), [state]);
  const filled = parts(volumeSoFar(state, "fill"), "volume");
  const bleach = parts(volumeSoFar(state, "dose"), "volume");
  const end = state.closed ? Date.parse(state.closed.at) : now;
  const isDose = state.setup.job === "sanitize";
  const strip = state.readings.findLast((r) => r.kind === "chlorine");
  return (
    <dl
      className="grid grid-cols-2 border-t border-line bg-paper md:grid-cols-4"
      aria-label="Meters"
    >
      <Meter label="Water filled in (worked out)">
        <Big>{filled.value}</Big>{" "}
        <span className="text-muted">
          {filled.unit}
          {firstPlan?.water && ` of ${q(firstPlan.water.filledM3, "volume")}`}
        </span>
      </Meter>
      {isDose ? (
        <Meter label={strip ? "Chlorine, last strip (measured)" : "Bleach so far (worked out)"}>
          {strip ? (
            <>
              <Big>{strip.typed}</Big>{" "}
              <span className="text-muted">{strip.label.replace(/^.*, at /u, "at ")}</span>
            </>
          ) : (
            <>
              <Big>{bleach.value}</Big> <span className="text-muted">{bleach.unit}</span>
            </>
          )}
        </Meter>
      ) : (
        <Meter label="Antifreeze allowed at an outlet">
          <Big>{Number(((state.setup.water?.tasteAtMost ?? 0) * 100).toFixed(2))} %</Big>
        </Meter>
      )}
      <Meter label="Heater" roomy>
        {heaters.length === 0 && <span className="text-muted">none aboard</span>}
        {heaters.map((h) => (
          <span key={h.name} className="block">
            <b className={h.share >= PROVED_FROM ? "text-green" : "text-rust"}>
              {Math.round(h.share * 100)} % full
            </b>{" "}
            <span className="text-muted">
              {h.name}, {h.proved ? "proved by a hot tap" : "worked out"}
            </span>
          </span>
        ))}
      </Meter>
      <Meter label="On the clock" roomy>
        <Big>{clock(Math.max(0, (end - Date.parse(startedAt)) / MINUTE))}</Big>
        {firstPlan && (
          <span className="block text-[13px] text-muted">
            of {clock(firstPlan.minutes)}, estimated{isDose && ", without the stand"}
          </span>
        )}
      </Meter>
    </dl>
  );
};
