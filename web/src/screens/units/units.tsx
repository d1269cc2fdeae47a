import type { Unit, UnitSearch } from "@uppershed/contract";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import { TinyLadder } from "../../frost/tiny-ladder.tsx";
import { useTitle } from "../../shell/slots.tsx";
import { useMeQuery, useUnitsQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";

const ONLY = [
  ["all", "all"],
  ["here", "here now"],
  ["findings", "open findings"],
  ["unsafe", "unsafe"],
] as const;

const PAGE = 50;

const UnitRow = ({ unit, winterLowC }: { unit: Unit; winterLowC: number }) => {
  const { holds } = useUnits();
  return (
    <tr className="border-t border-line hover:bg-green-soft">
      <td className="py-2 pr-4">
        <Link
          to={`/units/${unit.id}`}
          className="flex min-h-11 flex-col justify-center font-bold text-green underline-offset-4 hover:underline"
        >
          {unit.name}
          <span className="text-[13px] font-normal text-muted">
            {[unit.craft, unit.plate, unit.hull].filter(Boolean).join(" · ")}
          </span>
        </Link>
      </td>
      <td className="pr-4">
        <Link to={`/customers/${unit.customerId}`} className="underline-offset-4 hover:underline">
          {unit.owner}
        </Link>
        <br />
        <span className="text-[13px] text-muted">{unit.phone}</span>
      </td>
      <td className="hidden pr-4 md:table-cell">{unit.berth}</td>
      <td className="pr-4">
        <span className="flex items-center gap-3">
          <TinyLadder holdsToC={unit.state.holdsToC} winterLowC={winterLowC} />
          <b className="whitespace-nowrap">{holds(unit.state.holdsToC)}</b>
          {unit.state.cannotTell.length + unit.state.since.length > 0 && (
            <span className="text-[13px] text-rust">cannot tell for all</span>
          )}
        </span>
      </td>
      <td className="hidden pr-4 sm:table-cell">
        {unit.openFindings > 0 && (
          <span className={unit.unsafe ? "font-semibold text-rust" : ""}>
            {unit.openFindings}
            {unit.unsafe && ", unsafe"}
          </span>
        )}
      </td>
      <td className="hidden text-[14px] sm:table-cell">
        {unit.state.kind === "as-left" && unit.state.at && `left so ${dayOf(unit.state.at)}`}
        {unit.state.kind === "in-work" && "in work now"}
        {unit.state.kind === "in-use" && "in use, full of water (assumed)"}
        {unit.state.weakestPart && (
          <>
            <br />
            <span className="text-muted">weakest: {unit.state.weakestPart}</span>
          </>
        )}
        {unit.state.since.map((words) => (
          <span key={words} className="block text-rust">
            {words}
          </span>
        ))}
      </td>
    </tr>
  );
};

/** The register: one dense line a unit, found by any word of it. */
export const Units = () => {
  useTitle("Units");
  const { data: me } = useMeQuery();
  const [words, setWords] = useState("");
  const [only, setOnly] = useState<NonNullable<UnitSearch["only"]>>("all");
  const [cold, setCold] = useState(false);
  const [page, setPage] = useState(0);
  const find = useDeferredValue(words.trim());
  const { data, error, isFetching } = useUnitsQuery({
    only,
    sort: cold ? "cold" : "name",
    limit: PAGE,
    skip: page * PAGE,
    ...(find ? { find } : {}),
  });
  if (!data || !me) return <Waiting error={error} />;
  const again =
    <T,>(set: (value: T) => void) =>
    (value: T) => {
      setPage(0);
      set(value);
    };
  const last = (page + 1) * PAGE >= data.found && !data.atLeast;
  return (
    <div className="mx-auto max-w-6xl p-5">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <h1 className="text-2xl font-bold">Units</h1>
        <p className="text-[14px] text-muted" role="status">
          {data.found}
          {data.atLeast ? " or more" : ""} {find || only !== "all" ? "found" : "in the register"}
        </p>
        <label className="ml-auto text-[14px]">
          <span className="mr-2 text-muted">Find</span>
          <input
            className="field w-64"
            maxLength={100}
            placeholder="name, owner, phone, plate, part …"
            value={words}
            onChange={(e) => again(setWords)(e.target.value)}
          />
        </label>
        <Link
          to="/customers"
          className="inline-flex min-h-[44px] items-center rounded border-[1.5px] border-green bg-raised px-4 text-[15px] font-semibold text-green"
        >
          Customers
        </Link>
        <Link
          to="/units/new"
          className="inline-flex min-h-[44px] items-center rounded bg-green px-4 text-[15px] font-semibold text-on-green"
        >
          New unit
        </Link>
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-[14px]">
        <div role="radiogroup" aria-label="Which units" className="flex">
          {ONLY.map(([value, label]) => (
            <button
              key={value}
              type="button"
              role="radio"
              aria-checked={only === value}
              onClick={() => again(setOnly)(value)}
              className={`-ml-px min-h-11 border-[1.5px] border-green px-3 first:rounded-l last:rounded-r ${only === value ? "bg-green font-bold text-on-green" : "bg-raised text-green"}`}
            >
              {label}
            </button>
          ))}
        </div>
        <label className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-[var(--green)]"
            checked={cold}
            onChange={(e) => again(setCold)(e.target.checked)}
          />
          those that bear least cold first
        </label>
      </div>
      <table className="mt-2 w-full border-collapse text-left text-[15px]" aria-busy={isFetching}>
        <thead className="text-[13px] text-muted">
          <tr>
            <th className="py-2 pr-4 font-semibold">Unit</th>
            <th className="py-2 pr-4 font-semibold">Owner</th>
            <th className="hidden py-2 pr-4 font-semibold md:table-cell">Lies at</th>
            <th className="py-2 pr-4 font-semibold">Holds to</th>
            <th className="hidden py-2 pr-4 font-semibold sm:table-cell">Findings</th>
            <th className="hidden py-2 font-semibold sm:table-cell">Known from</th>
          </tr>
        </thead>
        <tbody>
          {data.units.map((unit) => (
            <UnitRow
              key={unit.id}
              unit={unit}
              winterLowC={unit.place?.winterLowC ?? me.workshop.winterLowC}
            />
          ))}
        </tbody>
      </table>
      {data.units.length === 0 && (
        <p className="mt-6 text-muted">
          {find ? `No unit fits "${find}". ` : "No unit here. "}
          <Link to="/units/new" className="text-green underline">
            Take one in
          </Link>
        </p>
      )}
      {(page > 0 || !last) && (
        <div className="mt-3 flex items-center gap-3">
          <Button disabled={page === 0} onClick={() => setPage(page - 1)}>
            Before
          </Button>
          <span className="text-[14px] text-muted">
            {page * PAGE + 1} to {page * PAGE + data.units.length}
          </span>
          <Button disabled={last} onClick={() => setPage(page + 1)}>
            After
          </Button>
        </div>
      )}
    </div>
  );
};
