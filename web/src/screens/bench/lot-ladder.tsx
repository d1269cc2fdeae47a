import type { Unit } from "@uppershed/contract";
import { Link } from "react-router";
import { placeOn, scaleFor, spaced } from "../../frost/ladder-marks.ts";
import { useUnits } from "../../ui/units.ts";

const SPACING = 0.085;

/** The frost ladder of the whole lot: one mark a unit. */
export const LotLadder = ({ units, winterLowC }: { units: readonly Unit[]; winterLowC: number }) => {
  const { q, holds } = useUnits();
  const scale = scaleFor(
    units.flatMap((u) => u.state.holdsToC ?? []),
    winterLowC,
  );
  const sorted = [...units].sort((a, b) => (b.state.holdsToC ?? -99) - (a.state.holdsToC ?? -99) || (a.name < b.name ? -1 : 1));
  const places = sorted.map((u) => (u.state.holdsToC === null ? 1 : placeOn(scale, u.state.holdsToC)));
  const words = spaced(places, SPACING);
  const marks = sorted.map((unit, i) => ({
    unit,
    at: places[i] ?? 1,
    textAt: words[i] ?? 1,
    bad: unit.state.holdsToC !== null && unit.state.holdsToC > winterLowC,
  }));
  return (
    <section aria-label="Frost ladder of the lot" className="flex h-full min-h-[420px] flex-col">
      <h2 className="font-bold">Frost ladder of the lot</h2>
      <p className="text-[13px] text-muted">lowest that each unit holds, as last known</p>
      <div className="relative mt-3 flex-1">
        <div className="absolute left-[40px] right-0 top-0 bg-rust-soft" style={{ height: `${placeOn(scale, winterLowC) * 100}%` }} />
        <div className="absolute inset-y-0 left-[40px] w-[3px] bg-ink" />
        {scale.ticks.map((tick) => (
          <span
            key={tick}
            aria-hidden
            className="absolute left-0 w-[34px] -translate-y-1/2 text-right text-[13px] text-muted"
            style={{ top: `${placeOn(scale, tick) * 100}%` }}
          >
            {q(tick, "temperature").replace(/ .*/u, "°")}
          </span>
        ))}
        <div className="absolute left-[28px] right-0 border-t-2 border-rust" style={{ top: `${placeOn(scale, winterLowC) * 100}%` }}>
          <span className="absolute right-1 top-[2px] text-[13px] font-bold text-rust">winter low {q(winterLowC, "temperature")}</span>
        </div>
        <svg aria-hidden className="absolute inset-y-0 left-[41px] h-full w-[17px]" viewBox="0 0 17 100" preserveAspectRatio="none">
          {marks.map(({ unit, at, textAt }) => (
            <path
              key={unit.id}
              d={`M0 ${at * 100}L14 ${textAt * 100}`}
              stroke="var(--ink)"
              strokeWidth="1.2"
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </svg>
        <ul>
          {marks.map(({ unit, at, textAt, bad }) => (
            <li key={unit.id}>
              <span
                aria-hidden
                className={`absolute left-[41px] size-[14px] -translate-x-1/2 -translate-y-1/2 border-2 border-paper ${bad ? "rotate-45 bg-rust" : "rounded-full bg-green"}`}
                style={{ top: `${at * 100}%` }}
              />
              <Link
                to={`/units/${unit.id}`}
                className="absolute left-[58px] right-0 -translate-y-[10px] text-[14px] leading-[17px] hover:underline"
                style={{ top: `${textAt * 100}%` }}
              >
                <b>{unit.name}</b> {holds(unit.state.holdsToC)}
                <br />
                <span className="text-[12.5px] text-muted">
                  {unit.state.weakestPart ?? (unit.state.kind === "in use" ? "in use, full of water (assumed)" : "")}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
};
