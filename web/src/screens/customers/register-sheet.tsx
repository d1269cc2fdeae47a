import type { ApiProblem, RegisterFile, RegisterOutcome } from "@uppershed/contract";
import { decodeText } from "@uppershed/core/formats";
import { useState } from "react";
import { problemText, useBringRegisterMutation } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Sheet } from "../../ui/sheet.tsx";

const Outcome = ({ outcome }: { outcome: RegisterOutcome }) => {
  const lines = [
    [outcome.newCustomers, "new customers"],
    [outcome.newUnits, "new units"],
    [outcome.filled, "with empty fields filled"],
    [outcome.same, "lines that say what is here"],
  ] as const;
  return (
    <div className="mt-3 text-[15px]" role="status">
      <p className="font-semibold">{outcome.done ? "Done:" : "This would happen:"}</p>
      <ul>
        {lines.map(([n, label]) => (
          <li key={label}>
            <b>{n}</b> {label}
          </li>
        ))}
      </ul>
      {outcome.differs.length > 0 && (
        <details className="mt-2" open>
          <summary className="min-h-9">
            {outcome.differs.length} said differently here: left as they are
          </summary>
          <ul className="max-h-48 overflow-auto text-[14px]">
            {outcome.differs.map((d) => (
              <li key={`${d.line} ${d.where}`}>
                line {d.line}, {d.where}: here “{d.here}”, in the file “{d.file}”
              </li>
            ))}
          </ul>
        </details>
      )}
      {outcome.notTaken.length > 0 && (
        <details className="mt-2" open>
          <summary className="min-h-9">
            {outcome.notTaken.length} fields that the register does not keep
          </summary>
          <ul className="max-h-48 overflow-auto text-[14px]">
            {outcome.notTaken.map((n) => (
              <li key={n}>{n}</li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
};

/** The register out to files and in from them: what would happen is shown before it does. */
export const RegisterSheet = ({ onClose }: { onClose: () => void }) => {
  const [bring, bringing] = useBringRegisterMutation();
  const [file, setFile] = useState<RegisterFile>();
  const [outcome, setOutcome] = useState<RegisterOutcome>();
  const [problem, setProblem] = useState<string>();
  const run = async (asked: RegisterFile): Promise<void> => {
    setProblem(undefined);
    const reply = await bring(asked);
    if (!reply.error) setOutcome(reply.data);
    else setOutcome(undefined);
  };
  const read = async (chosen: File): Promise<void> => {
    setOutcome(undefined);
    setFile(undefined);
    const decoded = decodeText(new Uint8Array(await chosen.arrayBuffer()));
    if (!decoded.ok) return setProblem(decoded.problems.map((p) => p.problem).join(" "));
    const kind = /\.(?:vcf|vcard)$/iu.test(chosen.name) ? "vcard" : "csv";
    const asked: RegisterFile = { kind, text: decoded.text, tryOnly: true };
    setFile(asked);
    await run(asked);
  };
  const fields = (bringing.error as { data?: ApiProblem } | undefined)?.data?.error.fields ?? [];
  return (
    <Sheet open onClose={onClose} title="The register in files">
      <p className="text-[14px] text-muted">
        Out: everything as a table, or the customers as cards for a telephone.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {(
          [
            ["csv", "register.csv", "Table (CSV)"],
            ["vcard", "register.vcf", "Cards (vCard)"],
          ] as const
        ).map(([kind, name, label]) => (
          <a
            key={kind}
            href={`/api/register/${kind}`}
            download={name}
            className="inline-flex min-h-11 items-center rounded border-[1.5px] border-green bg-raised px-4 text-[15px] font-semibold text-green"
          >
            {label}
          </a>
        ))}
      </div>
      <label className="mt-4 block text-[15px] font-semibold">
        In: a table or cards
        <input
          type="file"
          accept=".csv,.vcf,.vcard,text/csv,text/vcard"
          className="mt-1 block min-h-11 font-normal"
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            event.target.value = "";
            if (chosen) void read(chosen);
          }}
        />
      </label>
      {(problem ?? bringing.error) && (
        <div role="alert" className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          <p className="font-semibold">{problem ?? problemText(bringing.error)}</p>
          <ul className="max-h-60 overflow-auto">
            {fields.map((f) => (
              <li key={`${f.where} ${f.problem}`}>
                <b>{f.where}</b>: {f.problem}
              </li>
            ))}
          </ul>
        </div>
      )}
      {outcome && <Outcome outcome={outcome} />}
      {outcome && !outcome.done && file && (
        <Button
          look="act"
          big
          className="mt-3"
          disabled={bringing.isLoading}
          onClick={() => void run({ ...file, tryOnly: false })}
        >
          Take it in
        </Button>
      )}
    </Sheet>
  );
};
