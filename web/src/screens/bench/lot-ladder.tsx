import type { Unit } from "@uppershed/contract";
import { Link } from "react-router";
import { placeOn, scaleFor, spaced } from "../../frost/ladder-marks.ts";
import { LadderScale, LadderSign } from "../../frost/ladder-scale.tsx";
import { useUnits } from "../../ui/units.ts";

const SPACING = 0.085;
const UPRIGHT_PX = 40;

/** The frost ladder of the whole lot: one mark a unit. */
export const LotLadder = ({ units, found, winterLowC }: { units: readonly Unit[]; found: number; winterLowC: number }) => {
  const { holds } = useUnits();
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
      <p className="text-[13px] text-muted">
        lowest that each unit holds, as last known
        {found > units.length && `; the ${units.length} that bear least of ${found}`}
      </p>
      <div className="relative mt-3 flex-1">
        <LadderScale
          scale={scale}
          winterLowC={winterLowC}
          leftPx={UPRIGHT_PX}
          threads={marks.map((m) => ({ key: m.unit.id, at: m.at, textAt: m.textAt }))}
        />
        <ul>
          {marks.map(({ unit, at, textAt, bad }) => (
            <li key={unit.id}>
              <LadderSign at={at} bad={bad} leftPx={UPRIGHT_PX} />
              <Link
                to={`/units/${unit.id}`}
                className="absolute left-[58px] right-0 -translate-y-[10px] text-[14px] leading-[17px] hover:underline"
                style={{ top: `${textAt * 100}%` }}
              >
                <b>{unit.name}</b> {holds(unit.state.holdsToC)}
                {unit.state.since.length > 0 && <span className="text-[12.5px] text-rust"> changed since</span>}
                <br />
                <span className="text-[12.5px] text-muted">
                  {unit.state.weakestPart ?? (unit.state.kind === "in-use" ? "in use, full of water (assumed)" : "")}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
};
