import type { FindingOnFile, FindingSearch } from "@uppershed/contract";
import { SEVERITIES } from "@uppershed/core/inspection";
import { useDeferredValue, useState } from "react";
import { FindingSheet } from "../../findings/finding-sheet.tsx";
import { useUnitMap } from "../../planning/use-map.ts";
import { useTitle } from "../../shell/slots.tsx";
import { useFindingsQuery } from "../../store/api.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { capital } from "../../ui/words.ts";
import { FindingsByUnit } from "./by-unit.tsx";

const Opened = ({ finding, onClose }: { finding: FindingOnFile; onClose: () => void }) => {
  const { map, revision } = useUnitMap(finding.unitId);
  if (!map) return null;
  return (
    <FindingSheet
      of={{ unitId: finding.unitId, visitId: null, mapRevision: revision }}
      finding={finding}
      map={map}
      onClose={onClose}
    />
  );
};

/** Findings of every unit, the one with the most urgent first. */
export const Findings = () => {
  useTitle("Findings");
  const [words, setWords] = useState("");
  const find = useDeferredValue(words.trim());
  const [severity, setSeverity] = useState("");
  const [all, setAll] = useState(false);
  const search: FindingSearch = {
    state: all ? "all" : "open",
    ...(find ? { find } : {}),
    ...(severity ? { severity: severity as (typeof SEVERITIES)[number] } : {}),
  };
  const { data, error } = useFindingsQuery(search);
  const [open, setOpen] = useState<string>();
  if (!data) return <Waiting error={error} />;
  const opened = data.findings.find((f) => f.id === open);
  return (
    <div className="mx-auto max-w-5xl p-5">
      <div className="flex flex-wrap items-end gap-4">
        <h1 className="text-2xl font-bold">Findings</h1>
        <label className="ml-auto text-[14px]">
          <span className="mr-2 text-muted">Find</span>
          <input
            className="field w-52"
            maxLength={100}
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
        </label>
        <label className="text-[14px]">
          <span className="sr-only">How bad</span>
          <select className="field" value={severity} onChange={(e) => setSeverity(e.target.value)}>
            <option value="">however bad</option>
            {SEVERITIES.map((s) => (
              <option key={s} value={s}>
                {capital(s)}
              </option>
            ))}
          </select>
        </label>
        <label className="flex min-h-11 items-center gap-2 text-[14px]">
          <input
            type="checkbox"
            className="size-5 accent-[var(--green)]"
            checked={all}
            onChange={(e) => setAll(e.target.checked)}
          />
          also mended and accepted
        </label>
      </div>
      <p className="mt-2 text-[14px] text-muted">
        What each touches: people, by heat, pressure or foul water; frost, where winterizing counts
        on the part; water, that runs out or does not come.
      </p>
      <div className="mt-4">
        <FindingsByUnit findings={data.findings} onOpen={(f) => setOpen(f.id)} />
      </div>
      {data.findings.length === 0 && <p className="text-muted">None.</p>}
      {data.more && <p className="mt-3 text-[14px] text-muted">There are more: type a word.</p>}
      {opened && <Opened finding={opened} onClose={() => setOpen(undefined)} />}
    </div>
  );
};
