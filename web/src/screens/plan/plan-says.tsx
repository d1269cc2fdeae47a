import type { KitItem } from "@uppershed/contract";
import { lackingFor } from "@uppershed/core/kit";
import type { Plan, RunBegins } from "@uppershed/core/procedure";
import { useUnits } from "../../ui/units.ts";
import { ageOf } from "../../ui/words.ts";

/** What a plan says of itself: what it comes to, what to carry, what it leaves unprotected, and what it was reckoned from. */

export const ComesTo = ({
  plan,
  unitName,
  marginC,
}: {
  plan: Plan | undefined;
  unitName: string;
  marginC: number;
}) => {
  const { holds, text } = useUnits();
  return (
    <h1 className="min-w-0 flex-1 text-[19px] font-bold" aria-live="polite">
      {plan ? (
        <>
          When done, {unitName} holds to{" "}
          <span className={plan.unprotected.length > 0 ? "text-rust" : "text-green"}>
            {holds(plan.holdsToC)}
          </span>
          {plan.weakest && (
            <span className="block text-[15px] font-normal text-muted">
              Weakest part: {plan.weakest.name}, {text(plan.weakest.evidence)}.{" "}
              {plan.cannotTell.length > 0
                ? "Whether all of it does cannot be told yet: see below."
                : plan.meetsMargin
                  ? `Below the winter low with ${marginC} K in hand.`
                  : `Less than ${marginC} K below the winter low.`}
            </span>
          )}
        </>
      ) : (
        "Reckoning …"
      )}
    </h1>
  );
};

export const Carry = ({
  carry,
  kit,
  product,
  jugs,
}: {
  carry: Plan["carry"];
  kit: readonly KitItem[];
  product: string;
  jugs: number;
}) => {
  const inUse = kit.filter((k) => !k.givenUp);
  const lacking = new Set(kit.length > 0 ? lackingFor(carry, inUse) : []);
  const here = kit.find((k) => k.kind === "antifreeze" && k.name === product)?.here ?? undefined;
  return (
    <section aria-label="What to carry">
      <h2 className="font-bold">To carry</h2>
      <ul className="list-disc pl-5 text-[15px]">
        {carry.map((line, i) => (
          <li key={line}>
            {line}
            {lacking.has(line) && <b className="text-rust"> (not in the kit)</b>}
            {i === 0 && jugs > 0 && here !== undefined && here < jugs && (
              <b className="text-rust"> (only {Math.floor(here)} here)</b>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
};

const MOST_NAMED = 12;

export const Unprotected = ({
  plan: { unprotected },
  winterLowC,
  onCompare,
}: {
  plan: Plan;
  winterLowC: number;
  onCompare: () => void;
}) => {
  const { q, holds, text } = useUnits();
  if (unprotected.length === 0) return null;
  return (
    <div role="alert" className="mt-3 border-l-4 border-rust bg-rust-soft p-3">
      <h2 className="font-bold">Stays unprotected at {q(winterLowC, "temperature")}</h2>
      <ul className="list-disc pl-5 text-[15px]">
        {unprotected.slice(0, MOST_NAMED).map((u) => (
          <li key={u.id}>
            {u.name}: holds to {holds(u.holdsToC)}, {text(u.why)}
          </li>
        ))}
        {unprotected.length > MOST_NAMED && <li>and {unprotected.length - MOST_NAMED} more</li>}
      </ul>
      <p className="mt-1 text-[15px]">
        Another method may protect it:{" "}
        <button type="button" className="min-h-8 font-semibold underline" onClick={onCompare}>
          compare the methods
        </button>
        .
      </p>
    </div>
  );
};

export const ReckonedFrom = ({
  plan,
  begins,
}: {
  plan: Plan;
  begins: RunBegins | null | undefined;
}) => (
  <p className="mt-3 text-[14px] text-muted">
    {begins
      ? `Reckoned from how it was left ${ageOf(begins.at)}. `
      : "Reckoned as in use, full of water: nobody has written down how it was left. "}
    {plan.entry.startsWith("none")
      ? "Antifreeze is poured into the traps only."
      : `Antifreeze comes in by ${plan.entry}. Each outlet should read ${Math.round(plan.targetStrength * 100)} % or more.`}
  </p>
);
