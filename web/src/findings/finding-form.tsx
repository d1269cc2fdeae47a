import type { FindingOnFile } from "@uppershed/contract";
import { type FindingSeverity, SEVERITIES, SEVERITY_LABELS } from "@uppershed/core/inspection";
import { type WaterMap } from "@uppershed/core/watermap";
import { useState } from "react";
import { PictureButton } from "../pictures/picture-button.tsx";
import { PictureStrip } from "../pictures/picture-strip.tsx";
import { usePicturesNow } from "../sending/on-device.ts";
import { uuid } from "../device/uuid.ts";
import { PartSelect } from "../ui/part-select.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { SheetForm } from "../ui/sheet-form.tsx";
import { type Of, useFindingEntry } from "./use-finding-entry.ts";

const SAYS: Record<FindingSeverity, string> = {
  unsafe: "hurts people, the hull or the electrics",
  "will-fail": "does not last the season",
  wears: "to be renewed in its time",
  note: "only worth knowing",
};

/** A fault found, or a correction of one: what, how bad, where, why, what is advised. */
export const FindingForm = ({
  of,
  map,
  about,
  start = {},
  onClose,
}: {
  of: Of;
  map: WaterMap;
  about?: FindingOnFile;
  start?: { what?: string; partId?: string | null; place?: string };
  onClose: () => void;
}) => {
  const enter = useFindingEntry(of);
  const [id] = useState(() => about?.id ?? uuid());
  const pictures = usePicturesNow(of.unitId).filter((p) => p.aboutId === id);
  const [what, setWhat] = useState(about?.what ?? start.what ?? "");
  const [severity, setSeverity] = useState<FindingSeverity>(about?.severity ?? "wears");
  const [partId, setPartId] = useState(about?.partId ?? start.partId ?? "");
  const [cause, setCause] = useState(about?.cause ?? "");
  const [advice, setAdvice] = useState(about?.advice ?? "");
  const [partsNeeded, setPartsNeeded] = useState(about?.partsNeeded ?? "");
  const [minutes, setMinutes] = useState(about?.minutes?.toString() ?? "");
  const go = (): string | undefined => {
    if (what.trim() === "") return "Say what was found.";
    const time = minutes.trim() === "" ? null : Number(minutes);
    if (time !== null && (!Number.isInteger(time) || time < 0))
      return "Time to mend it: whole minutes, or nothing.";
    const place =
      map.parts.find((p) => p.id === partId)?.place ?? about?.place ?? start.place ?? "";
    const facts = {
      what: what.trim(),
      severity,
      partId: partId || null,
      place,
      cause,
      advice,
      partsNeeded,
      minutes: time,
    };
    return about
      ? enter({ type: "changed", ...facts }, about)
      : enter({ type: "found", ...facts }, undefined, id);
  };
  const line = (label: string, value: string, set: (v: string) => void, most: number) => (
    <label className="mt-2 block text-[15px] font-semibold">
      {label}
      <input
        className="field mt-1 w-full font-normal"
        maxLength={most}
        value={value}
        onChange={(e) => set(e.target.value)}
      />
    </label>
  );
  return (
    <Sheet open onClose={onClose} title={about ? "Correct the finding" : "A finding"}>
      <SheetForm act={about ? "Keep the correction" : "Write it down"} onAct={go} onClose={onClose}>
        <label className="block text-[15px] font-semibold">
          What was found?
          <textarea
            className="field mt-1 min-h-16 w-full py-2 font-normal"
            maxLength={300}
            value={what}
            onChange={(e) => setWhat(e.target.value)}
          />
        </label>
        <fieldset className="mt-2">
          <legend className="text-[15px] font-semibold">How bad?</legend>
          {SEVERITIES.map((s) => (
            <label key={s} className="flex min-h-11 items-center gap-2">
              <input
                type="radio"
                name="severity"
                className="size-5 accent-[var(--green)]"
                checked={severity === s}
                onChange={() => setSeverity(s)}
              />
              <b className={s === "unsafe" ? "text-rust" : ""}>{SEVERITY_LABELS[s]}</b>{" "}
              <span className="text-muted">{SAYS[s]}</span>
            </label>
          ))}
        </fieldset>
        {severity === "unsafe" && (
          <p className="border-l-4 border-rust bg-rust-soft p-2 text-[15px]">
            Make it safe first and tell the lead. Gas, mains electricity and pressure vessels are
            for licensed trades.
          </p>
        )}
        <PartSelect parts={map.parts} value={partId} onChange={setPartId} />
        {line("Cause, if known", cause, setCause, 500)}
        {line("What is advised", advice, setAdvice, 500)}
        {line("Parts needed", partsNeeded, setPartsNeeded, 300)}
        <label className="mt-2 block text-[15px] font-semibold">
          Time to mend it, minutes
          <input
            className="field mt-1 w-28 font-normal"
            inputMode="numeric"
            value={minutes}
            onChange={(e) => setMinutes(e.target.value)}
          />
        </label>
        <div className="mt-3">
          <PictureButton
            unitId={of.unitId}
            about="finding"
            aboutId={id}
            label="Picture of the finding"
          />
          <PictureStrip pictures={pictures} />
        </div>
      </SheetForm>
    </Sheet>
  );
};
