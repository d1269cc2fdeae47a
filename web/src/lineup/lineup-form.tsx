import { type Control, type Lineup, type Network, positionLabel } from "@uppershed/core/watermap";
import { capital } from "../ui/words.ts";

/** Every valve, tap, cap, plug and switch, in the order of a walk round the unit, with its position. */
export const LineupForm = ({
  network,
  lineup,
  against,
  onChange,
}: {
  network: Network;
  lineup: Lineup;
  against: { lineup: Lineup; word: string };
  onChange: (lineup: Lineup) => void;
}) => {
  const places = [...network.map.places, ""];
  const controls = network.controls.filter((c) => c.spec.role !== "check");
  const placeOf = (c: Control): string =>
    places.includes(c.part.place ?? "") ? (c.part.place ?? "") : "";
  return (
    <div className="space-y-5">
      {places.map((place) => {
        const here = controls.filter((c) => placeOf(c) === place);
        if (here.length === 0) return null;
        return (
          <section key={place} aria-label={place || "elsewhere"}>
            <h2 className="border-b-2 border-green text-[15px] font-bold">
              {place ? capital(place) : "Elsewhere"}
            </h2>
            {here.map((control) => {
              const now = lineup[control.key] ?? control.spec.inUse;
              const differs = now !== (against.lineup[control.key] ?? control.spec.inUse);
              const name =
                control.spec.name === "main"
                  ? control.part.name
                  : `${control.part.name}, ${control.spec.label.toLowerCase()}`;
              return (
                <div
                  key={control.key}
                  role="radiogroup"
                  aria-label={`${control.part.tag ?? ""} ${name}`.trim()}
                  className="flex flex-wrap items-center gap-2 border-b border-line py-1.5"
                >
                  <span className="min-w-0 flex-1 text-[15px]">
                    {control.part.tag && (
                      <b className="mr-2 rounded bg-ground px-1.5 py-0.5">{control.part.tag}</b>
                    )}
                    {name}
                    {differs && (
                      <span className="ml-2 rounded bg-rust-soft px-1.5 py-0.5 text-[13px] font-semibold text-rust">
                        {against.word}
                      </span>
                    )}
                  </span>
                  <span className="flex">
                    {control.spec.positions.map((p) => (
                      <button
                        key={p.name}
                        type="button"
                        role="radio"
                        aria-checked={now === p.name}
                        title={p.handle}
                        onClick={() => onChange({ ...lineup, [control.key]: p.name })}
                        className={`-ml-px min-h-11 border-[1.5px] border-green px-3 text-[14px] first:rounded-l last:rounded-r ${now === p.name ? "bg-green font-bold text-on-green" : "bg-raised text-green"}`}
                      >
                        {positionLabel(control, p.name)}
                      </button>
                    ))}
                  </span>
                </div>
              );
            })}
          </section>
        );
      })}
    </div>
  );
};

/** The position of every control that the map has. */
export const controlsOf = (network: Network, lineup: Lineup): Record<string, string> =>
  Object.fromEntries(network.controls.map((c) => [c.key, lineup[c.key] ?? c.spec.inUse]));
