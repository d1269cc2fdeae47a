import type { EditionLine } from "@uppershed/contract";
import { Copy, FileDown, Printer } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { uuid } from "../../device/uuid.ts";
import { ReportPaper } from "../../reports/report-paper.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import {
  problemText,
  useEditionQuery,
  useEditionsQuery,
  useLinksQuery,
  useMakeEditionMutation,
  useMakeLinkMutation,
  useReportQuery,
  useWithdrawLinkMutation,
} from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Waiting } from "../../ui/waiting.tsx";
import { useMay } from "../../ui/use-may.ts";
import { dayOf, timeOf } from "../../ui/words.ts";
import { BarLink } from "../../shell/bar-link.tsx";

const DAYS = [14, 60, 365] as const;

/** Links by which the owner reads this report without signing in: made, copied, withdrawn. */
const OwnerLinks = ({
  visitId,
  handOver,
}: {
  visitId: string;
  handOver: () => Promise<string | undefined>;
}) => {
  const { data: links = [], error } = useLinksQuery(visitId);
  const [make, making] = useMakeLinkMutation();
  const [withdraw, withdrawing] = useWithdrawLinkMutation();
  const [days, setDays] = useState<number>(60);
  const [said, setSaid] = useState("");
  const problem = error ?? making.error ?? withdrawing.error;
  const makeOne = async (): Promise<void> => {
    const editionId = await handOver();
    if (editionId !== undefined) await make({ visitId, link: { id: uuid(), editionId, days } });
  };
  const copy = async (address: string): Promise<void> => {
    try {
      await navigator.clipboard.writeText(address);
      setSaid("Copied.");
    } catch {
      setSaid("It could not be copied: mark it and copy it by hand.");
    }
  };
  return (
    <section
      aria-label="Links for the owner"
      className="no-print mt-8 border-t-2 border-green pt-3"
    >
      <h2 className="text-[17px] font-bold">Links for the owner</h2>
      <p className="text-[14px] text-muted">
        Whoever has the link reads the edition that it was made for and nothing else, until it ends
        or is withdrawn.
      </p>
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
        <Button disabled={making.isLoading} onClick={() => void makeOne()}>
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
            <li
              key={link.id}
              className="flex flex-wrap items-center gap-2 border-t border-line py-2 text-[14px]"
            >
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
                  <Button
                    look="rust"
                    disabled={withdrawing.isLoading}
                    onClick={() => void withdraw(link.id)}
                  >
                    Withdraw
                  </Button>
                  <span className="text-muted">
                    {link.edition !== null && `edition ${link.edition}, `}for {link.owner}, until{" "}
                    {dayOf(link.expiresAt)}
                  </span>
                </>
              ) : (
                <span className="text-muted">
                  made {dayOf(link.at)} by {link.by},{" "}
                  {link.withdrawnAt
                    ? `withdrawn ${dayOf(link.withdrawnAt)}`
                    : `ended ${dayOf(link.expiresAt)}`}
                </span>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
};

const HOW: Readonly<Record<EditionLine["how"], string>> = {
  print: "printed",
  pdf: "as a PDF file",
  link: "by a link",
  gone: "kept when the unit went",
};

/** What was handed over: each says for ever what it said then. */
const Editions = ({ visitId, shown }: { visitId: string; shown: string | undefined }) => {
  const { data: editions = [], error } = useEditionsQuery(visitId);
  return (
    <section aria-label="Editions" className="no-print mt-8 border-t-2 border-green pt-3">
      <h2 className="text-[17px] font-bold">Editions</h2>
      <p className="text-[14px] text-muted">
        Printing, a PDF file and a link each hand over an edition: it says for ever what it says
        then. What comes later is in the next.
      </p>
      {error && (
        <p role="alert" className="text-rust">
          {problemText(error)}
        </p>
      )}
      {editions.length === 0 && (
        <p className="text-[14px] text-muted">None yet: this report has not been handed over.</p>
      )}
      <ul>
        {editions.map((e) => (
          <li
            key={e.id}
            className="flex flex-wrap items-center gap-x-4 border-t border-line text-[14px]"
          >
            <Link
              to={`/visits/${visitId}/report?edition=${e.id}`}
              aria-current={e.id === shown ? "page" : undefined}
              className={`min-h-11 content-center underline ${e.id === shown ? "font-bold" : "text-green"}`}
            >
              Edition {e.number}
            </Link>
            <span className="text-muted">
              {dayOf(e.at)} {timeOf(e.at)}, {e.by}, {HOW[e.how]}
            </span>
            <a
              href={`/api/editions/${e.id}/report.pdf`}
              download="report.pdf"
              className="min-h-11 content-center text-green underline"
            >
              PDF of edition {e.number}
            </a>
          </li>
        ))}
      </ul>
    </section>
  );
};

const download = (address: string): void => {
  const link = document.createElement("a");
  link.href = address;
  link.download = "report.pdf";
  link.click();
};

/** The report to the owner: on screen as it is on paper, as a PDF file, by a link. What is handed over is an edition. */
export const ReportScreen = () => {
  const { visitId = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const edition = params.get("edition") ?? undefined;
  const now = useReportQuery(visitId, { skip: edition !== undefined });
  const then = useEditionQuery(edition ?? "", { skip: edition === undefined });
  const { data, error } = edition === undefined ? now : then;
  const [make, making] = useMakeEditionMutation();
  const [printing, setPrinting] = useState(false);
  useTitle(data ? `Report on ${data.unit.name}` : "Report");
  const ready = printing && data?.edition?.id === edition;
  useEffect(() => {
    if (!ready) return;
    // It is printed when it is on the page, and once.
    // oxlint-disable-next-line react/set-state-in-effect
    setPrinting(false);
    window.print();
  }, [ready]);
  /** The edition that is looked at, or a new one of how the report stands. */
  const handOver = async (how: EditionLine["how"]): Promise<string | undefined> => {
    if (edition !== undefined) return edition;
    const reply = await make({ visitId, edition: { id: uuid(), how } });
    return reply.data?.id;
  };
  const mayHand = useMay("hand");
  const print = async (): Promise<void> => {
    const id = await handOver("print");
    if (id === undefined) return;
    setPrinting(true);
    setParams({ edition: id });
  };
  const pdf = async (): Promise<void> => {
    const id = await handOver("pdf");
    if (id !== undefined) download(`/api/editions/${id}/report.pdf`);
  };
  if (!data) return <Waiting error={error} />;
  return (
    <div className="mx-auto max-w-4xl p-6 pb-16">
      <InBar>
        <BarLink to={`/visits/${visitId}`}>
          <b>{data.unit.name}</b>: {data.visit.asked}
        </BarLink>
      </InBar>
      <div className="no-print mb-3 flex flex-wrap items-center justify-end gap-2">
        {data.edition && (
          <p
            role="status"
            className="min-w-0 flex-1 border-l-4 border-green bg-green-soft p-2 text-[15px]"
          >
            Edition {data.edition.number}, handed over {dayOf(data.edition.at)}: it does not change.{" "}
            <Link to={`/visits/${visitId}/report`} className="text-green underline">
              The report as it stands now
            </Link>
          </p>
        )}
        {mayHand && (
          <>
            <Button disabled={making.isLoading} onClick={() => void print()}>
              <Printer aria-hidden size={18} /> Print
            </Button>
            <Button disabled={making.isLoading} onClick={() => void pdf()}>
              <FileDown aria-hidden size={18} /> PDF
            </Button>
          </>
        )}
      </div>
      {making.error && (
        <p role="alert" className="text-rust">
          {problemText(making.error)}
        </p>
      )}
      <ReportPaper data={data} pictureBase="/api/pictures" />
      <Editions visitId={visitId} shown={edition} />
      {mayHand && <OwnerLinks visitId={visitId} handOver={() => handOver("link")} />}
    </div>
  );
};
