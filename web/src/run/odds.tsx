import { useUnits } from "../ui/units.ts";

/** What was read and cannot all be true. */
export const Odds = ({ odds }: { odds: readonly string[] }) => {
  const { text } = useUnits();
  if (odds.length === 0) return null;
  return (
    <section
      aria-label="Cannot all be true"
      className="border-l-[6px] border-rust bg-rust-soft px-3 py-2 text-[15px]"
    >
      <h2 className="font-bold">Cannot all be true</h2>
      <ul className="list-disc pl-5">
        {odds.map((o) => (
          <li key={o}>{text(o)}</li>
        ))}
      </ul>
    </section>
  );
};
