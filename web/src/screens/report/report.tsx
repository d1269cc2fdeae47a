import { Copy, FileDown, Printer } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { ReportPaper } from "../../reports/report-paper.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { problemText, useLinksQuery, useMakeLinkMutation, useReportQuery, useWithdrawLinkMutation } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";

const DAYS = [14, 60, 365] as const;

/** Links by which the owner reads this report without signing in: made, copied, withdrawn. */
const OwnerLinks = ({ visitId }: { visitId: string }) => {
  const { data: links = [], error } = useLinksQuery(visitId);
  const [make, making] = useMakeLinkMutation();
  const [withdraw, withdrawing] = useWithdrawLinkMutation();
  const [days, setDays] = useState<number>(60);
  const [said, setSaid] = useState("");
  const problem = error ?? making.error ?? withdrawing.error;
  const copy = async (address: string): Promise<void> => {
    try {
      await navigator.clipboard.writeText(address);
      setSaid("Copied.");
    } catch {
      setSaid("It could not be copied: mark it and copy it by hand.");
    }
  };
  return (
    <section aria-label="Links for the owner" className="no-print mt-8 border-t-2 border-green pt-3">
      <h2 className="text-[17px] font-bold">Links for the owner</h2>
      <p className="text-[14px] text-muted">Whoever has the link reads this report and nothing else, until it ends or is withdrawn.</p>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <label className="text-[15px]">
          Good for{" "}
          <select className="field" value={days} onChange={(e) => setDays(Number(e.target.value))}>
            {DAYS.map((d) => (
              <option key={d} value={d}>
                {d} days
              </option>
            ))}
          </select>
        </label>
        <Button disabled={making.isLoading} onClick={() => void make({ visitId, days })}>
          Make a link
        </Button>
      </div>
      {problem && (
        <p role="alert" className="text-rust">
          {problemText(problem)}
        </p>
      )}
      <p role="status" className="text-[14px]">
        {said}
      </p>
      <ul>
        {links.map((link) => {
          const address = link.path ? `${window.location.origin}${link.path}` : "";
          return (
            <li key={link.id} className="flex flex-wrap items-center gap-2 border-t border-line py-2 text-[14px]">
              {link.path ? (
                <>
                  <input
                    className="field min-w-0 flex-1"
                    readOnly
                    aria-label="Address for the owner"
                    value={address}
                    onFocus={(e) => e.target.select()}
                  />
                  <Button onClick={() => void copy(address)}>
                    <Copy aria-hidden size={16} /> Copy
                  </Button>
                  <Button look="rust" disabled={withdrawing.isLoading} onClick={() => void withdraw(link.id)}>
                    Withdraw
                  </Button>
                  <span className="text-muted">until {dayOf(link.expiresAt)}</span>
                </>
              ) : (
                <span className="text-muted">
                  made {dayOf(link.at)} by {link.by},{" "}
                  {link.withdrawnAt ? `withdrawn ${dayOf(link.withdrawnAt)}` : `ended ${dayOf(link.expiresAt)}`}
                </span>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
};

/** The report to the owner: on screen as it is on paper, as a PDF file, by a link. */
export const ReportScreen = () => {
  const { visitId = "" } = useParams();
  const { data, error } = useReportQuery(visitId);
  useTitle(data ? `Report on ${data.unit.name}` : "Report");
  if (!data) return <Waiting error={error} />;
  return (
    <div className="mx-auto max-w-4xl p-6 pb-16">
      <InBar>
        <Link to={`/visits/${visitId}`} className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px] text-on-bar">
          <b>{data.unit.name}</b>: {data.visit.asked}
        </Link>
      </InBar>
      <div className="no-print float-right flex gap-2">
        <Button onClick={() => window.print()}>
          <Printer aria-hidden size={18} /> Print
        </Button>
        <a
          href={`/api/visits/${visitId}/report.pdf`}
          download="report.pdf"
          className="inline-flex min-h-11 items-center gap-2 rounded border-[1.5px] border-green bg-raised px-4 text-[15px] font-semibold text-green"
        >
          <FileDown aria-hidden size={18} /> PDF
        </a>
      </div>
      <ReportPaper data={data} pictureBase="/api/pictures" />
      <OwnerLinks visitId={visitId} />
    </div>
  );
};
