import { cardParts, jobCard } from "@uppershed/core/refit";
import { buildNetwork, type Part } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { useKitQuery, usePartsQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useNow } from "../../ui/use-now.ts";
import { useUnits } from "../../ui/units.ts";
import type { OfRefit } from "./of-refit.ts";

const SIGNED_FOR_MS = 4 * 3_600_000;

const hotRow = (partId: string): string => `hot line ${partId}`;

/** The step at which a hot line would be undone: the one that carries the caution. */
const cardLock = (steps: readonly { readonly caution?: string }[]): number =>
  steps.findIndex((s) => s.caution?.startsWith("Hot water stands"));

const SAFE = [
  "Heater off at the breaker and the cock, and tagged",
  "Cooled: a hand can stay on it",
  "Pressure gone: a hot tap opened until nothing comes",
  "Bucket below, for the litres that run out",
] as const;

/** A hot line opened outside a winterizing is locked like a plug: what makes it safe is signed first. */
const HotLock = ({ of, part, left }: { of: OfRefit; part: Part; left: number }) => {
  const enter = useRefitEntry(of.unitId, of.refitId);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [problem, setProblem] = useState<string>();
  return (
    <fieldset className="mt-3 border-l-4 border-rust bg-rust-soft p-3">
      <legend className="float-left w-full font-semibold">
        Locked until signed, for four hours: {left} {left === 1 ? "step" : "steps"} more
      </legend>
      {SAFE.map((row) => (
        <label key={row} className="clear-both flex min-h-11 items-center gap-3 text-[15px]">
          <input
            type="checkbox"
            className="size-6 shrink-0"
            disabled={!of.mayWork}
            checked={ticked.has(row)}
            onChange={() =>
              setTicked((now) => {
                const then = new Set(now);
                if (!then.delete(row)) then.add(row);
                return then;
              })
            }
          />
          {row}
        </label>
      ))}
      {of.mayWork && (
        <Button
          look="act"
          disabled={ticked.size < SAFE.length}
          onClick={() =>
            void enter({ type: "proved", row: hotRow(part.id), ok: true }).then(setProblem)
          }
        >
          So it is, signed
        </Button>
      )}
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
    </fieldset>
  );
};

/** Cards for the common jobs, made from the unit's map as it is today: what shuts it off, what runs out, the order, the reading before and after. */
export const CardsView = (of: OfRefit) => {
  const { here } = of;
  const { text } = useUnits();
  const network = useMemo(() => buildNetwork(here.today), [here.today]);
  const parts = useMemo(() => {
    const runs = new Set(here.pieces.flatMap((p) => p.runs));
    const touched = new Set<string>([
      ...here.pieces.flatMap((p) => p.parts),
      ...here.today.runs.flatMap((r) => (runs.has(r.id) ? [r.from.part, r.to.part] : [])),
    ]);
    // What the proposal touches first, then what else could be exchanged.
    return cardParts(network).toSorted(
      (a, b) => Number(touched.has(b.id)) - Number(touched.has(a.id)) || (a.name < b.name ? -1 : 1),
    );
  }, [network, here.today.runs, here.pieces]);
  const [chosen, setChosen] = useState(parts[0]?.id ?? "");
  const part = parts.find((p) => p.id === chosen) ?? parts[0];
  const card = useMemo(() => part && jobCard(network, part), [network, part]);
  const now = useNow(60_000);
  const { data: register } = usePartsQuery({ unit: of.unitId });
  const { data: kit } = useKitQuery();
  // What is known of this very part: a socket, a thread, its length; and what of the kit says the same.
  const sizes = (register?.parts ?? []).flatMap((p) =>
    p.partId === part?.id && p.life.size !== ""
      ? [`${p.item ? `${p.item}, ` : ""}${p.life.size}`]
      : [],
  );
  const inKit = (kit?.kit ?? []).flatMap(({ name, givenUp, facts }) =>
    !givenUp &&
    (facts.kind === "socket" || facts.kind === "adapter") &&
    facts.size !== "" &&
    sizes.some((s) => facts.size.split(",").some((f) => s.includes(f.trim())))
      ? [name]
      : [],
  );
  const signed = part ? here.onFile.refit.proved[hotRow(part.id)] : undefined;
  // That it was cold last week says nothing of today.
  const isSafe = signed?.ok === true && now - Date.parse(signed.at) < SIGNED_FOR_MS;
  const isLocked = card?.isolation.isHot === true && !isSafe;
  // What comes after the water is hot and pressed waits until somebody signs that it is neither.
  const steps = card?.steps.slice(0, isLocked ? 1 + cardLock(card.steps) : undefined) ?? [];
  if (!card) return <p className="my-3 text-muted">Nothing on this map is exchanged by itself.</p>;
  return (
    <div className="max-w-[760px]">
      <div className="my-2 flex flex-wrap items-end gap-3 print:hidden">
        <label className="text-[15px]">
          <span className="font-semibold">For which part</span>
          <select
            className="field mt-1 w-full"
            value={card.part}
            onChange={(e) => setChosen(e.target.value)}
          >
            {parts.map((p) => (
              <option key={p.id} value={p.id}>
                {p.tag ? `${p.tag} ` : ""}
                {p.name}
                {p.place ? `, ${p.place}` : ""}
              </option>
            ))}
          </select>
        </label>
        <Button onClick={() => window.print()}>Print</Button>
      </div>
      <h2 className="text-[19px] font-bold">{card.title}</h2>
      {sizes.length > 0 && (
        <p className="mb-2 text-[15px]">
          From the register: {sizes.join("; ")}.
          {inKit.length > 0 && ` In the kit: ${inKit.join(", ")}.`}
        </p>
      )}
      <ol aria-label="The card">
        {steps.map((s, i) => (
          <li key={s.title} className="border-t border-line py-2">
            <p className="font-semibold">
              {i + 1}. {s.title}
            </p>
            {s.caution !== undefined && (
              <p className="my-1 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
                {text(s.caution)}
              </p>
            )}
            <ul className="ml-5 list-disc text-[15px]">
              {s.rows.map((r) => (
                <li key={r}>{text(r)}</li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
      {isLocked && part && <HotLock of={of} part={part} left={card.steps.length - steps.length} />}
      <p className="mt-2 text-[13px] text-muted">
        Makers&apos; instructions and local codes come first. Gas, mains electricity and pressure
        vessels are for licensed trades.
      </p>
    </div>
  );
};
