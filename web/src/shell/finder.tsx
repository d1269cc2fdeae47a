import { useDeferredValue, useEffect, useState } from "react";
import { useUnitsQuery } from "../store/api.ts";

// As many as can be scanned by eye on a phone.
const SHOWN = 8;

/** Find by any word: name, owner, telephone, plate, hull number, place, part. */
export const Finder = ({ onFound }: { onFound: (to: string) => void }) => {
  const [typed, setTyped] = useState("");
  const words = typed.trim();
  const wanted = useDeferredValue(words);
  const { currentData: data, error } = useUnitsQuery({
    limit: SHOWN,
    ...(wanted ? { find: wanted } : {}),
  });
  const found = data && wanted === words ? data.units : [];
  const first = found[0]?.id;
  // Enter pressed before the units are here counts when they come, unless more is typed first.
  const [entered, setEntered] = useState(false);
  useEffect(() => {
    if (entered && first !== undefined) onFound(`/units/${first}`);
  }, [entered, first, onFound]);
  const enter = (): void => {
    if (first !== undefined) onFound(`/units/${first}`);
    else setEntered(!data || wanted !== words);
  };
  return (
    <search>
      <label className="block">
        <span className="text-[15px] font-semibold">Name, owner, number, place or part</span>
        <input
          // The sheet was opened to type here.
          // oxlint-disable-next-line jsx-a11y/no-autofocus
          autoFocus
          maxLength={100}
          className="field mt-1 w-full"
          value={typed}
          onChange={(event) => {
            setEntered(false);
            setTyped(event.target.value);
          }}
          onKeyDown={(event) => event.key === "Enter" && enter()}
        />
      </label>
      <ul className="mt-3">
        {found.map((unit) => (
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
        {!data && (
          <li className="p-2 text-muted">
            {error ? "The units cannot be had from the server now." : "Fetching the units …"}
          </li>
        )}
        {data && found.length === 0 && (
          <li className="p-2 text-muted">No unit of this workshop fits.</li>
        )}
      </ul>
    </search>
  );
};
