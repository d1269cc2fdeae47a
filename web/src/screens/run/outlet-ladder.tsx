import { chlorineOf, liquidIn, strengthOf, volumeOf } from "@uppershed/core/contents";
import type { RunState } from "@uppershed/core/procedure";
import { useMemo } from "react";
import { useUnits } from "../../ui/units.ts";

interface Outlet {
  readonly id: string;
  readonly partId: string;
  readonly name: string;
  readonly glycol: number;
  readonly mgL: number;
  readonly isDry: boolean;
}

/** What stands at each outlet of the drinking side now, as the engine carried it there. */
const outletsOf = ({ network, physical }: RunState): Outlet[] =>
  network.openings.flatMap((o) => {
    const cell = network.cells[o.cell];
    if (o.use !== "outlet" || cell?.side !== "fresh") return [];
    const held = liquidIn(physical.contents[o.cell]);
    const side = network.controls.find((c) => c.key === o.gate?.key)?.spec;
    return [
      {
        id: o.id,
        partId: o.part.id,
        name: `${o.part.name}${side && side.name !== "main" && side.name !== "flush" ? `, ${side.name}` : ""}`,
        glycol: strengthOf(held),
        mgL: chlorineOf(held),
        isDry: volumeOf(held) < 0.5 * cell.capacityM3,
      },
    ];
  });

const wordOf = (outlet: Outlet, isDose: boolean, taste: number, limit: number): string => {
  if (outlet.isDry) return "air";
  if (outlet.glycol > taste) return "antifreeze";
  if (outlet.mgL > limit) return "chlorine";
  return isDose && outlet.mgL > 0.05 ? "little chlorine" : "clear";
};

/** Every outlet with what stands in it: the side of the sheet where winter has its frost ladder. */
export const OutletLadder = ({
  state,
  onChoose,
}: {
  state: RunState;
  onChoose: (partId: string) => void;
}) => {
  const { q } = useUnits();
  const { water, job } = state.setup;
  const isDose = job === "sanitize";
  const outlets = useMemo(() => outletsOf(state), [state]);
  const stage = state.todo[0]?.stage;
  const isBroughtIn = isDose && (stage === "dose" || stage === "spread" || stage === "stand");
  const [taste, limit] = [water?.tasteAtMost ?? 0, water?.chlorine.limitMgL ?? 4];
  return (
    <section aria-label="At the outlets" className="h-full overflow-auto px-3 py-2">
      <h2 className="text-[13px] text-muted">At the outlets (worked out)</h2>
      <ul>
        {outlets.map((o) => {
          const word = wordOf(o, isDose, taste, limit);
          // While it is brought in and stands, chlorine is what is wanted.
          const isWanted = word === "chlorine" && isBroughtIn;
          const isClear = isWanted || word === "clear" || word === "little chlorine";
          return (
            <li key={o.id} className="border-t border-line">
              <button
                type="button"
                onClick={() => onChoose(o.partId)}
                className="flex min-h-11 w-full flex-col py-1 text-left hover:bg-green-soft"
              >
                <span className="text-[14px] leading-tight">{o.name}</span>
                <span className={`text-[14px] font-bold ${isClear ? "text-green" : "text-rust"}`}>
                  {word}
                  {word.endsWith("chlorine") && ` ${q(o.mgL, "concentration")}`}
                  {word === "antifreeze" && ` ${q(o.glycol, "fraction")}`}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
};
