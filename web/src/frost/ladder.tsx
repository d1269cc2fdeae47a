import type { Verdict } from "@uppershed/core/contents";
import { useUnits } from "../ui/units.ts";
import { hang, placeOn, scaleFor } from "./ladder-marks.ts";
import { LadderScale, LadderSign } from "./ladder-scale.tsx";

// What fits on two lines beside the scale.
const LETTERS = 24;

const CROWDED = 0.05;
const UPRIGHT_PX = 34;

/** As many names as fit, and how many are left. */
const shortList = (all: readonly string[]): { names: string; more: number } => {
  const distinct = [...new Set(all)];
  const two = distinct.slice(0, 2).join(", ");
  const names = two.length <= LETTERS ? two : (distinct[0] ?? "");
  return { names, more: distinct.length - (names === two ? Math.min(2, distinct.length) : 1) };
};

export interface LadderProps {
  readonly verdict: Verdict;
  readonly winterLowC: number;
  /** What the unit will hold to when the plan is done. */
  readonly afterC?: number | null;
  readonly onChoose?: (id: string) => void;
}

/** The frost ladder: each part hangs where it would be hurt, a line marks the winter low. */
export const FrostLadder = ({ verdict, winterLowC, afterC, onChoose }: LadderProps) => {
  const { q } = useUnits();
  const temperatures = [
    ...verdict.owners.flatMap((o) => o.holdsToC ?? []),
    ...(afterC === null || afterC === undefined ? [] : [afterC]),
  ];
  const scale = scaleFor(temperatures, winterLowC);
  const marks = hang(verdict.owners, scale, 0.085);
  // The words of the mark for "when done" step up where a part's words stand.
  const crowded =
    afterC !== null &&
    afterC !== undefined &&
    marks.some((m) => Math.abs(m.textAt - placeOn(scale, afterC)) < CROWDED);
  const free = verdict.owners.filter((o) => o.holdsToC === null && o.part).length;
  const top = (share: number): string => `${share * 100}%`;
  return (
    <section aria-label="Frost ladder" className="flex h-full min-h-0 flex-col px-3 py-2">
      <h2 className="text-[14px] font-bold">Frost ladder</h2>
      <p className="text-[12px] text-muted">lowest that each part holds</p>
      <div className="relative mt-2 min-h-40 flex-1">
        <LadderScale
          scale={scale}
          winterLowC={winterLowC}
          leftPx={UPRIGHT_PX}
          threads={marks.map((m) => ({ key: String(m.temperatureC), at: m.at, textAt: m.textAt }))}
        />
        {afterC !== null && afterC !== undefined && (
          <div
            className="absolute left-[35px] flex -translate-y-1/2 items-center gap-2"
            style={{ top: top(placeOn(scale, afterC)) }}
          >
            <span
              aria-hidden
              className="-ml-[7px] size-[14px] rounded-full border-[3px] border-[var(--glycol)] bg-paper"
            />
            <span
              className={`text-[12px] font-bold text-[var(--glycol)] ${crowded ? "-translate-y-[17px]" : ""}`}
            >
              when done
            </span>
          </div>
        )}
        <ul>
          {marks.map((mark) => {
            const bad = mark.temperatureC > winterLowC;
            const { names, more } = shortList(mark.owners.map((o) => o.name.split(",")[0] ?? ""));
            const first = mark.owners[0];
            return (
              <li key={`${mark.temperatureC} ${first?.id}`}>
                <LadderSign at={mark.at} bad={bad} leftPx={UPRIGHT_PX} />
                <button
                  type="button"
                  onClick={() => first && onChoose?.(first.id)}
                  className="absolute left-[50px] right-0 max-h-[34px] -translate-y-[9px] overflow-hidden text-left text-[12.5px] leading-[16px] hover:underline"
                  style={{ top: top(mark.textAt) }}
                  aria-label={`${names}${more > 0 ? ` and ${more} more` : ""}, ${bad ? "hurt above the winter low" : "safe at the winter low"}: ${q(mark.temperatureC, "temperature")}`}
                  title={mark.owners.map((o) => o.name).join(", ")}
                >
                  <b>{names}</b>
                  {more > 0 && <span className="text-muted"> +{more}</span>}
                </button>
              </li>
            );
          })}
        </ul>
      </div>
      <p className="mt-1 border-t border-line pt-1 text-[12px] text-muted">
        No limit: {free} part{free === 1 ? "" : "s"} empty, or with room for ice
      </p>
    </section>
  );
};
