import { COMMON_NIGHT, nightWatch } from "@uppershed/core/contents";
import { parseQuantity } from "@uppershed/core/quantity";
import type { Network } from "@uppershed/core/watermap";
import { useState } from "react";
import { useUnits } from "../ui/units.ts";
import { capital } from "../ui/words.ts";
import { secondsWords } from "./say-action.ts";
import type { Sandbox } from "./use-sandbox.ts";

/** What a night would reach first, and how long each lasts. */
export const NightList = ({ network, sandbox }: { network: Network; sandbox: Sandbox }) => {
  const { q, system } = useUnits();
  const [typed, setTyped] = useState(() => q(-8, "temperature"));
  const read = parseQuantity(typed, "temperature", system);
  const airC = read.ok ? read.quantity.si : Number.NaN;
  const sound = airC < -0.05 && airC >= -60;
  const list =
    sound && sandbox.shown
      ? nightWatch(network, sandbox.shown.contents, { ...COMMON_NIGHT, airC })
      : [];
  return (
    <section aria-label="A night" className="border-t border-line px-4 py-2 text-[14px]">
      <label className="flex items-center gap-2">
        A night at
        <input
          className="field w-24"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          aria-invalid={!sound}
        />
      </label>
      {!sound && (
        <p className="mt-1 text-rust">
          A temperature below freezing, such as {q(-8, "temperature")}.
        </p>
      )}
      {sound && list.length === 0 && <p className="mt-1">Nothing aboard freezes in it.</p>}
      {list.length > 0 && (
        <ol className="mt-1">
          {list.slice(0, 6).map((w) => (
            <li key={w.id} className="flex justify-between gap-3 border-t border-line py-1">
              <span>{capital(w.name)}</span>
              <span className="whitespace-nowrap tabular-nums">
                ice {secondsWords(w.firstIceS)}, through {secondsWords(w.throughS)}
              </span>
            </li>
          ))}
        </ol>
      )}
      {list.length > 6 && <p className="text-muted">and {list.length - 6} more, later</p>}
      <p className="mt-1 text-[13px] text-muted">
        Worked out by Plank's formula from water at {q(COMMON_NIGHT.beginC, "temperature")}, in
        still air; inside the heated space {COMMON_NIGHT.insideK} K warmer (assumed). A burst comes
        before a pipe is frozen through.
      </p>
    </section>
  );
};
