import { Link } from "react-router";
import { useClocksQuery } from "../../store/api.ts";
import { useNow } from "../../ui/use-now.ts";
import { countdown } from "../../ui/words.ts";

/** Clocks of sheets that are open: what stands and soaks, while other work goes on. */
export const RunningClocks = () => {
  const { data: clocks } = useClocksQuery();
  const now = useNow(1000);
  if (!clocks || clocks.length === 0) return null;
  return (
    <section aria-label="Clocks" className="mb-4 mt-3">
      <h2 className="text-[14px] font-bold uppercase tracking-wide text-muted">Standing</h2>
      <ul>
        {clocks.map((c) => (
          <li key={`${c.runId} ${c.label}`}>
            <Link
              to={`/runs/${c.runId}`}
              className="flex min-h-11 items-center gap-3 border-t border-line hover:bg-green-soft"
            >
              <b>{c.unitName}</b>
              <span className="min-w-0 flex-1 truncate">{c.label}</span>
              <b
                className={`tabular-nums ${Date.parse(c.endsAt) < now ? "text-rust" : "text-green"}`}
              >
                {countdown(c.endsAt, now)}
              </b>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
};
