import { FileDown } from "lucide-react";
import { useParams } from "react-router";
import { ReportPaper } from "../../reports/report-paper.tsx";
import { Offers } from "../../reports/offers.tsx";
import { useTitle } from "../../shell/slots.tsx";
import { problemText, useOwnerReportQuery } from "../../store/api.ts";
import { dayOf } from "../../ui/words.ts";

/** The owner's page: one report, read once on a phone, without signing in. */
export const OwnerPage = () => {
  const { token = "" } = useParams();
  const { data, error } = useOwnerReportQuery(token, { refetchOnMountOrArgChange: true });
  useTitle(data ? `Report on ${data.unit.name}` : "Report");
  if (!data)
    return (
      <main className="mx-auto max-w-xl p-6">
        <h1 className="text-[24px] font-extrabold">Upper Shed</h1>
        {error ? (
          <p role="alert" className="mt-4 border-l-4 border-rust bg-rust-soft p-3">
            {problemText(error)}
          </p>
        ) : (
          <p role="status" className="mt-4 text-muted">
            One moment …
          </p>
        )}
      </main>
    );
  return (
    <main className="mx-auto max-w-3xl p-4 pb-12">
      <ReportPaper data={data} pictureBase={`/api/owner/${token}/pictures`} />
      <Offers token={token} units={data.workshop.units} />
      <footer className="no-print mt-6 flex flex-wrap items-center gap-4 border-t border-line pt-3 text-[14px]">
        <a
          href={`/api/owner/${token}/report.pdf`}
          download="report.pdf"
          className="inline-flex min-h-11 items-center gap-2 rounded border-[1.5px] border-green bg-raised px-4 text-[15px] font-semibold text-green"
        >
          <FileDown aria-hidden size={18} /> Keep it as PDF
        </a>
        {data.expiresAt && (
          <span className="text-muted">This page can be read until {dayOf(data.expiresAt)}.</span>
        )}
      </footer>
    </main>
  );
};
