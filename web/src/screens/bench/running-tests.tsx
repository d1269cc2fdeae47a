import { Link } from "react-router";
import { useRunningTestsQuery } from "../../store/api.ts";
import { timeOf } from "../../ui/words.ts";

/** Pressure tests that stand open: each goes on at its unit. */
export const RunningTests = () => {
  const { data: tests } = useRunningTestsQuery();
  if (!tests || tests.length === 0) return null;
  return (
    <section aria-label="Pressure tests" className="mb-4 mt-3">
      <h2 className="text-[14px] font-bold uppercase tracking-wide text-muted">Holding</h2>
      <ul>
        {tests.map((t) => (
          <li key={t.id}>
            <Link
              to={`/units/${t.unitId}/tests/${t.id}`}
              className="flex min-h-11 items-center gap-3 border-t border-line hover:bg-green-soft"
            >
              <b>{t.unitName}</b>
              <span className="min-w-0 flex-1 truncate">{t.title}</span>
              <span className="tabular-nums text-muted">since {timeOf(t.at)}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
};
