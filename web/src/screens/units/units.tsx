import { Link } from "react-router";
import { useState } from "react";
import { useTitle } from "../../shell/slots.tsx";
import { useMeQuery, useUnitsQuery } from "../../store/api.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { TinyLadder } from "../../frost/tiny-ladder.tsx";

/** The register: one dense line a unit. */
export const Units = () => {
  useTitle("Units");
  const { data: me } = useMeQuery();
  const { data: units, error } = useUnitsQuery();
  const { holds } = useUnits();
  const [words, setWords] = useState("");
  if (!units || !me) return <Waiting error={error} />;
  const found = units.filter((u) =>
    `${u.name} ${u.craft} ${u.owner} ${u.mark} ${u.berth}`.toLowerCase().includes(words.trim().toLowerCase()),
  );
  return (
    <div className="mx-auto max-w-6xl p-5">
      <div className="flex flex-wrap items-end justify-between gap-4">
        <h1 className="text-2xl font-bold">Units</h1>
        <Link
          to="/units/new"
          className="ml-auto inline-flex min-h-[44px] items-center rounded bg-green px-4 text-[15px] font-semibold text-on-green"
        >
          New unit
        </Link>
        <label className="text-[14px]">
          <span className="mr-2 text-muted">Find</span>
          <input className="field w-64" value={words} onChange={(e) => setWords(e.target.value)} />
        </label>
      </div>
      <table className="mt-4 w-full border-collapse text-left text-[15px]">
        <thead className="text-[13px] text-muted">
          <tr>
            <th className="py-2 pr-4 font-semibold">Unit</th>
            <th className="py-2 pr-4 font-semibold">Owner</th>
            <th className="hidden py-2 pr-4 font-semibold md:table-cell">Lies at</th>
            <th className="py-2 pr-4 font-semibold">Holds to</th>
            <th className="hidden py-2 font-semibold sm:table-cell">Known from</th>
          </tr>
        </thead>
        <tbody>
          {found.map((unit) => (
            <tr key={unit.id} className="border-t border-line hover:bg-green-soft">
              <td className="py-2 pr-4">
                <Link
                  to={`/units/${unit.id}`}
                  className="flex min-h-11 flex-col justify-center font-bold text-green underline-offset-4 hover:underline"
                >
                  {unit.name}
                  <span className="text-[13px] font-normal text-muted">
                    {unit.craft} · {unit.mark}
                  </span>
                </Link>
              </td>
              <td className="pr-4">
                {unit.owner}
                <br />
                <span className="text-[13px] text-muted">{unit.phone}</span>
              </td>
              <td className="hidden pr-4 md:table-cell">{unit.berth}</td>
              <td className="pr-4">
                <span className="flex items-center gap-3">
                  <TinyLadder holdsToC={unit.state.holdsToC} winterLowC={me.workshop.winterLowC} />
                  <b>{holds(unit.state.holdsToC)}</b>
                  {unit.state.cannotTell.length > 0 && <span className="text-[13px] text-rust">cannot tell for all</span>}
                </span>
              </td>
              <td className="hidden text-[14px] sm:table-cell">
                {unit.state.kind === "as left" && unit.state.at && `left so ${dayOf(unit.state.at)}`}
                {unit.state.kind === "in work" && "in work now"}
                {unit.state.kind === "in use" && "in use, full of water (assumed)"}
                {unit.state.weakestPart && (
                  <>
                    <br />
                    <span className="text-muted">weakest: {unit.state.weakestPart}</span>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {found.length === 0 && <p className="mt-6 text-muted">No unit fits "{words}".</p>}
    </div>
  );
};
