import type { Difference } from "@uppershed/core/survey";
import { useUnits } from "../ui/units.ts";
import { capital } from "../ui/words.ts";

const SIGN: Record<Difference["change"], string> = { added: "+", removed: "−", changed: "~" };
const WORD: Record<Difference["change"], string> = {
  added: "added",
  removed: "taken out",
  changed: "changed",
};

/** What differs between two maps, as a list. */
export const Differences = ({
  list,
  onChoose,
}: {
  list: readonly Difference[];
  onChoose?: (id: string) => void;
}) => {
  const { text } = useUnits();
  if (list.length === 0) return <p className="text-muted">Nothing differs.</p>;
  return (
    <ul>
      {list.map((d) => {
        const body = (
          <>
            <b
              aria-hidden
              className={`mr-2 inline-block w-4 text-center ${d.change === "added" ? "text-green" : "text-rust"}`}
            >
              {SIGN[d.change]}
            </b>
            <b>{capital(d.name)}</b> {WORD[d.change]}
            {d.details.length > 0 && (
              <span className="block pl-6 text-[13px] text-muted">
                {d.details.map(text).join("; ")}
              </span>
            )}
          </>
        );
        return (
          <li key={`${d.what} ${d.id} ${d.change}`} className="border-t border-line text-[14px]">
            {onChoose && (d.what === "part" || d.what === "run") && d.change !== "removed" ? (
              <button
                type="button"
                className="min-h-11 w-full py-1.5 text-left hover:bg-green-soft"
                onClick={() => onChoose(d.id)}
              >
                {body}
              </button>
            ) : (
              <span className="block py-1.5">{body}</span>
            )}
          </li>
        );
      })}
    </ul>
  );
};
