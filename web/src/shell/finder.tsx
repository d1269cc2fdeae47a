import { useEffect, useRef, useState } from "react";
import { useUnitsQuery } from "../store/api.ts";

/** Find by name, owner, mark, craft or place. */
export const Finder = ({ onFound }: { onFound: (to: string) => void }) => {
  const { data, error } = useUnitsQuery();
  const units = data ?? [];
  const [words, setWords] = useState("");
  const wanted = words.trim().toLowerCase();
  const found = units.filter((u) => `${u.name} ${u.owner} ${u.mark} ${u.craft} ${u.berth}`.toLowerCase().includes(wanted));
  const first = found[0]?.id;
  // Enter pressed before the units are here counts when they come, unless more is typed first.
  const entered = useRef(false);
  useEffect(() => {
    if (!entered.current || first === undefined) return;
    entered.current = false;
    onFound(`/units/${first}`);
  }, [first, onFound]);
  const type = (text: string): void => {
    entered.current = false;
    setWords(text);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (first !== undefined) onFound(`/units/${first}`);
        else entered.current = !data;
      }}
    >
      <label className="block">
        <span className="text-[15px] font-semibold">Name, owner, number or place</span>
        {/* The sheet was opened to type here. */}
        {/* oxlint-disable-next-line jsx-a11y/no-autofocus */}
        <input autoFocus className="field mt-1 w-full" value={words} onChange={(e) => type(e.target.value)} />
      </label>
      <ul className="mt-3">
        {found.slice(0, 8).map((unit) => (
          <li key={unit.id}>
            <button
              type="button"
              className="flex min-h-11 w-full items-baseline gap-3 px-2 text-left hover:bg-green-soft"
              onClick={() => onFound(`/units/${unit.id}`)}
            >
              <b>{unit.name}</b>
              <span className="text-muted">
                {unit.craft}, {unit.owner}
              </span>
            </button>
          </li>
        ))}
        {!data && <li className="p-2 text-muted">{error ? "The units cannot be had from the server now." : "Fetching the units …"}</li>}
        {data && found.length === 0 && <li className="p-2 text-muted">No unit of this workshop fits.</li>}
      </ul>
    </form>
  );
};
