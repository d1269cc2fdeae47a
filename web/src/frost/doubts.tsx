import type { Doubt } from "@uppershed/core/procedure";

/** What cannot be told, grouped by what must be found out, with the cheapest way to do so. */
export const Doubts = ({ doubts, level = 2 }: { doubts: readonly Doubt[]; level?: 2 | 3 }) => {
  if (doubts.length === 0) return null;
  const causes = [...new Set(doubts.map((d) => d.because))];
  const Title = `h${level}` as const;
  return (
    <section
      aria-label="Cannot tell"
      className="border-l-[6px] border-rust bg-rust-soft p-3 text-[15px]"
    >
      <Title className="font-bold">Cannot tell until it is found out</Title>
      <ul className="list-disc pl-5">
        {causes.map((cause) => {
          const mine = doubts.filter((d) => d.because === cause);
          const behind = mine.filter((d) => d.id !== cause).map((d) => d.name);
          return (
            <li key={cause}>
              <b>{mine[0]?.becauseName}</b>: {mine[0]?.ask}
              {behind.length > 0 && (
                <span className="block text-[14px] text-muted">
                  Rests on it: {behind.slice(0, 5).join("; ")}
                  {behind.length > 5 && ` and ${behind.length - 5} more`}
                </span>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
};
