import { useUnits } from "../ui/units.ts";
import { type LadderScale as Scale, placeOn } from "./ladder-marks.ts";

/** The upright of a ladder: its degrees, the part that is too warm, the winter low, and a thread from each mark to its words. */
export const LadderScale = ({
  scale,
  winterLowC,
  leftPx,
  threads,
}: {
  scale: Scale;
  winterLowC: number;
  /** Where the upright stands. */
  leftPx: number;
  threads: readonly { readonly key: string; readonly at: number; readonly textAt: number }[];
}) => {
  const { q } = useUnits();
  const top = (celsius: number): string => `${placeOn(scale, celsius) * 100}%`;
  return (
    <>
      <div
        className="absolute right-0 top-0 bg-rust-soft"
        style={{ left: leftPx, height: top(winterLowC) }}
      />
      <div className="absolute inset-y-0 w-[3px] bg-ink" style={{ left: leftPx }} />
      {scale.ticks.map((tick) => (
        <div
          key={tick}
          aria-hidden
          className="absolute left-0 flex -translate-y-1/2 items-center justify-end text-[12px] text-muted"
          style={{ top: top(tick), width: leftPx + 6 }}
        >
          <span className="mr-[3px]">{q(tick, "temperature").replace(/ .*/u, "°")}</span>
          <span className="h-[2px] w-[7px] bg-ink" />
        </div>
      ))}
      <div
        className="absolute right-0 border-t-2 border-rust"
        style={{ top: top(winterLowC), left: leftPx - 14 }}
      >
        <span className="absolute right-0 top-[2px] text-[12px] font-bold text-rust">
          winter low {q(winterLowC, "temperature")}
        </span>
      </div>
      <svg
        aria-hidden
        className="absolute inset-y-0 h-full w-[15px]"
        style={{ left: leftPx + 1 }}
        viewBox="0 0 15 100"
        preserveAspectRatio="none"
      >
        {threads.map(({ key, at, textAt }) => (
          <path
            key={key}
            d={`M0 ${at * 100}L12 ${textAt * 100}`}
            stroke="var(--ink)"
            strokeWidth="1.2"
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
    </>
  );
};

/** The sign that hangs on the upright: a rust diamond where frost would hurt, a green disc where it would not. */
export const LadderSign = ({ at, bad, leftPx }: { at: number; bad: boolean; leftPx: number }) => (
  <span
    aria-hidden
    className={`absolute size-[13px] -translate-x-1/2 -translate-y-1/2 border-2 border-paper ${bad ? "rotate-45 bg-rust" : "rounded-full bg-green"}`}
    style={{ top: `${at * 100}%`, left: leftPx + 1 }}
  />
);
