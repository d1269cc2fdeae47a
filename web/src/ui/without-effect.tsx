import { useUnits } from "./units.ts";
import { dayOf, timeOf } from "./words.ts";

export interface EntryWithoutEffect {
  readonly id: string;
  readonly what: string;
  readonly by: string;
  readonly at: string;
  readonly problem: string;
}

/** Entries that are kept and have no effect, each with its reason: nothing is dropped in silence. */
export const WithoutEffect = ({
  on,
  entries,
}: {
  on: "signed sheet" | "finding";
  entries: readonly EntryWithoutEffect[];
}) => {
  const { text } = useUnits();
  if (entries.length === 0) return null;
  return (
    <section
      aria-label="Without effect"
      className="mt-4 border-l-[6px] border-rust bg-rust-soft p-3"
    >
      <h2 className="text-[16px] font-bold">
        {entries.length} {entries.length === 1 ? "entry has" : "entries have"} no effect on this{" "}
        {on}
      </h2>
      <ul className="list-disc pl-5 text-[15px]">
        {entries.map((entry) => (
          <li key={entry.id}>
            <b>{entry.what}</b>, {entry.by}, {dayOf(entry.at)} {timeOf(entry.at)}:{" "}
            {text(entry.problem)}
          </li>
        ))}
      </ul>
    </section>
  );
};
