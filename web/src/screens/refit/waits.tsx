import { curesIn } from "@uppershed/core/kit";
import { openEnds } from "@uppershed/core/refit";
import { useMemo, useState } from "react";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { useKitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useNow } from "../../ui/use-now.ts";
import { dayOf, timeOf } from "../../ui/words.ts";
import type { OfRefit } from "./of-refit.ts";

/** What was bedded or sealed, and cures: nothing of it is tested or closed in before. */
export const Cures = ({ of, chosen }: { of: OfRefit; chosen: readonly string[] }) => {
  const enter = useRefitEntry(of.unitId, of.refitId);
  const { data: kit } = useKitQuery();
  const now = useNow(60_000);
  const products = useMemo(
    () =>
      (kit?.kit ?? []).flatMap(({ name, givenUp, facts }) =>
        !givenUp && facts.kind === "sealant" ? [{ name, facts }] : [],
      ),
    [kit],
  );
  const [name, setName] = useState("");
  const [typed, setTyped] = useState("");
  const [problem, setProblem] = useState<string>();
  const product = products.find((p) => p.name === name) ?? products[0];
  const celsius = Number(typed.trim().replace(",", ".").replace("−", "-"));
  const known = typed.trim() !== "" && Number.isFinite(celsius);
  const hours = product && known ? curesIn(product.facts, celsius) : undefined;
  const { bedded } = of.here.onFile.refit;
  if (products.length === 0 && bedded.length === 0) return null;
  return (
    <section aria-label="What cures" className="mt-4">
      <h2 className="text-[16px] font-bold">What cures</h2>
      <ul>
        {bedded.map((b) => (
          <li key={`${b.at} ${b.product}`} className="border-t border-line py-1.5 text-[14px]">
            <b className={Date.parse(b.until) > now ? "text-rust" : "text-green"}>
              {Date.parse(b.until) > now ? "Cures" : "Cured"}
            </b>
            : {b.product}, {b.of.length} parts, until {dayOf(b.until)} {timeOf(b.until)} at{" "}
            {b.temperatureC} °C
          </li>
        ))}
      </ul>
      {of.mayWork && product && (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <label className="text-[14px]">
            <span className="font-semibold">With</span>
            <select
              className="field mt-1 w-full"
              value={product.name}
              onChange={(e) => setName(e.target.value)}
            >
              {products.map((p) => (
                <option key={p.name} value={p.name}>
                  {p.name}
                </option>
              ))}
            </select>
          </label>
          <Field
            label="Where it lies it has, °C"
            inputMode="decimal"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <Button
            disabled={chosen.length === 0 || hours === undefined}
            onClick={() =>
              void enter({
                type: "bedded",
                of: [...chosen],
                product: product.name,
                hours: hours ?? 0,
                temperatureC: celsius,
              }).then(setProblem)
            }
          >
            Bedded{hours === undefined ? "" : `: ${Math.ceil(hours)} h`}
          </Button>
        </div>
      )}
      {product && known && hours === undefined && (
        <p className="mt-1 text-[14px] text-rust">
          Its maker says nothing for {celsius} °C: warm the place, or ask.
        </p>
      )}
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
    </section>
  );
};

/** Ends that stand open until the pieces are in: each capped whenever the work stops for the day. */
export const OpenEnds = ({ of }: { of: OfRefit }) => {
  const enter = useRefitEntry(of.unitId, of.refitId);
  const [problem, setProblem] = useState<string>();
  const { today, proposed, onFile } = of.here;
  const ends = useMemo(() => openEnds(today, proposed), [today, proposed]);
  if (ends.length === 0) return null;
  const { proved } = onFile.refit;
  const capped = ends.filter((e) => proved[`cap ${e}`]?.ok).length;
  return (
    <section aria-label="Open ends" className="mt-4">
      <h2 className="text-[16px] font-bold">
        Open ends: {capped} of {ends.length} capped
      </h2>
      <ul>
        {ends.map((e) => {
          const is = proved[`cap ${e}`];
          return (
            <li
              key={e}
              className="flex min-h-11 items-center gap-3 border-t border-line text-[14px]"
            >
              <span className="min-w-0 flex-1">{e}</span>
              {is && (
                <span className={is.ok ? "text-green" : "text-rust"}>
                  {is.ok ? "capped" : "open"}, {dayOf(is.at)}
                </span>
              )}
              {of.mayWork && (
                <Button
                  onClick={() =>
                    void enter({ type: "proved", row: `cap ${e}`, ok: !is?.ok }).then(setProblem)
                  }
                >
                  {is?.ok ? "Cap off" : "Capped"}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
    </section>
  );
};
