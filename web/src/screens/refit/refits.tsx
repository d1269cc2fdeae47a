import type { Unit, UnitId } from "@uppershed/contract";
import { PATTERNS, starterMap } from "@uppershed/core/patterns";
import { withIdentities } from "@uppershed/core/refit";
import { readWaterMap, type WaterMap } from "@uppershed/core/watermap";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { uuid } from "../../device/uuid.ts";
import { useUnitMap } from "../../planning/use-map.ts";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { BarLink } from "../../shell/bar-link.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useMapQuery, useRefitsOfUnitQuery, useUnitQuery, useUnitsQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useMay } from "../../ui/use-may.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";

/** Refits of a unit: those that were thought of, and a new one, begun from today's map, a family or another unit. */

const FROM = [
  ["map", "today's map of this unit"],
  ["family", "a family's map"],
  ["sister", "another unit's map"],
] as const;

interface Typed {
  name: string;
  from: (typeof FROM)[number][0];
  family: string;
  sister: string;
}

/** The map that a new proposal is begun with; undefined while another unit's is still coming. */
const useFirstMap = (
  today: WaterMap,
  { from, family, sister }: Pick<Typed, "from" | "family" | "sister">,
): WaterMap | undefined => {
  const { data: other } = useMapQuery(sister as UnitId, {
    skip: from !== "sister" || sister === "",
  });
  if (from === "map") return today;
  if (from === "family") {
    const pattern = PATTERNS.find((p) => p.id === family);
    return pattern && withIdentities(today, starterMap(pattern));
  }
  const read = other ? readWaterMap(other.document) : undefined;
  return read?.ok ? withIdentities(today, read.map) : undefined;
};

const NewRefit = ({ unit, today, revision }: { unit: Unit; today: WaterMap; revision: number }) => {
  const [params] = useSearchParams();
  const findingId = params.get("finding") ?? undefined;
  const navigate = useNavigate();
  const [refitId] = useState(uuid);
  const enter = useRefitEntry(unit.id, refitId);
  const { data: others } = useUnitsQuery({});
  const [problem, setProblem] = useState<string>();
  const form = useForm<Typed>({
    defaultValues: {
      name: params.get("name") ?? "",
      from: "map",
      family: PATTERNS[0]?.id ?? "",
      sister: "",
    },
  });
  const typed = useWatch({ control: form.control }) as Typed;
  const first = useFirstMap(today, typed);
  const make = form.handleSubmit(async ({ name, from }) => {
    if (!first) return;
    const why = await enter({
      type: "made",
      name,
      from: findingId === undefined ? from : "finding",
      ...(findingId === undefined ? {} : { findingId }),
      document: first,
      basedOn: revision,
    });
    if (why === undefined) void navigate(`/units/${unit.id}/refits/${refitId}`);
    else setProblem(why);
  });
  return (
    <form
      aria-label="A new proposal"
      className="mt-4 border-t-2 border-green pt-3"
      onSubmit={(e) => void make(e)}
    >
      <h2 className="text-[19px] font-bold">A new proposal</h2>
      <p className="text-[14px] text-muted">
        A map that is not in force: drawn, judged and priced beside today's, and installed piece by
        piece.
      </p>
      <div className="mt-2 grid gap-3 sm:grid-cols-2">
        <Field
          label="What it is to be"
          maxLength={80}
          placeholder="A bypass round the heater"
          problem={form.formState.errors.name && "Give it a name."}
          {...form.register("name", { validate: (v) => v.trim() !== "" })}
        />
        <label className="text-[15px]">
          <span className="font-semibold">Begun from</span>
          <select className="field mt-1 w-full" {...form.register("from")}>
            {FROM.map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
        </label>
        {typed.from === "family" && (
          <label className="text-[15px]">
            <span className="font-semibold">Which family</span>
            <select className="field mt-1 w-full" {...form.register("family")}>
              {PATTERNS.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.label}
                </option>
              ))}
            </select>
          </label>
        )}
        {typed.from === "sister" && (
          <label className="text-[15px]">
            <span className="font-semibold">Which unit</span>
            <select className="field mt-1 w-full" {...form.register("sister")}>
              <option value="">choose one</option>
              {others?.units
                .filter((u) => u.id !== unit.id)
                .map((u) => (
                  <option key={u.id} value={u.id}>
                    {u.name}, {u.craft}
                  </option>
                ))}
            </select>
          </label>
        )}
      </div>
      {typed.from !== "map" && (
        <p className="mt-2 text-[14px] text-muted">
          Parts that are plainly the same, by kind and name, keep their life and their history. All
          else counts as new.
        </p>
      )}
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
      <Button
        look="act"
        big
        className="mt-3"
        type="submit"
        disabled={!first || form.formState.isSubmitting}
      >
        Make it
      </Button>
    </form>
  );
};

export const Refits = () => {
  const { unitId = "" } = useParams();
  const { data: unit, error } = useUnitQuery(unitId);
  const { data: refits } = useRefitsOfUnitQuery(unitId);
  const { map, revision, error: mapError } = useUnitMap(unitId);
  const mayWork = useMay("work");
  useTitle(unit ? `Refits of ${unit.name}` : "Refits");
  if (!unit || !refits || !map) return <Waiting error={error ?? mapError} />;
  return (
    <main className="mx-auto max-w-[900px] p-5">
      <InBar>
        <BarLink to={`/units/${unit.id}`}>
          <b>{unit.name}</b> · refits
        </BarLink>
      </InBar>
      <h1 className="text-[22px] font-bold">Refits of {unit.name}</h1>
      {refits.length === 0 ? (
        <p className="my-3 text-muted">None has been thought of yet.</p>
      ) : (
        <ul className="my-3" aria-label="Refits">
          {refits.map((r) => (
            <li key={r.id} className="border-t border-line">
              <Link
                to={`/units/${unit.id}/refits/${r.id}`}
                className="flex min-h-12 flex-wrap items-baseline gap-x-4 py-2 hover:bg-green-soft"
              >
                <span className="tabular-nums">{dayOf(r.at)}</span>
                <span className="min-w-0 flex-1 font-semibold">{r.name}</span>
                <span className="text-muted">
                  {r.withdrawnAt ? `withdrawn ${dayOf(r.withdrawnAt)}` : "open"}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      {mayWork && <NewRefit unit={unit} today={map} revision={revision} />}
    </main>
  );
};
