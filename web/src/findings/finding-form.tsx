import { zodResolver } from "@hookform/resolvers/zod";
import type { FindingOnFile } from "@uppershed/contract";
import { type FindingSeverity, SEVERITIES, SEVERITY_LABELS } from "@uppershed/core/inspection";
import { type WaterMap } from "@uppershed/core/watermap";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { z } from "zod";
import { PictureButton } from "../pictures/picture-button.tsx";
import { PictureStrip } from "../pictures/picture-strip.tsx";
import { usePicturesNow } from "../sending/on-device.ts";
import { uuid } from "../device/uuid.ts";
import { minutesSchema } from "../ui/chosen.ts";
import { AreaField, Choices, Field } from "../ui/field.tsx";
import { PartSelect } from "../ui/part-select.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { SheetForm } from "../ui/sheet-form.tsx";
import { type Of, useFindingEntry } from "./use-finding-entry.ts";

const MINUTES = "Time to mend it: whole minutes, or nothing.";
const SAYS: Record<FindingSeverity, string> = {
  unsafe: "hurts people, the hull or the electrics",
  "will-fail": "does not last the season",
  wears: "to be renewed in its time",
  note: "only worth knowing",
};

const formSchema = z.object({
  what: z.string().trim().min(1, "Say what was found."),
  severity: z.enum(SEVERITIES),
  partId: z.string(),
  cause: z.string(),
  advice: z.string(),
  partsNeeded: z.string(),
  minutes: minutesSchema(MINUTES, 100_000).refine(
    (t) => t === undefined || Number.isInteger(t),
    MINUTES,
  ),
});

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
  const form = useForm({
    resolver: zodResolver(formSchema),
    defaultValues: {
      what: about?.what ?? start.what ?? "",
      severity: about?.severity ?? "wears",
      partId: about?.partId ?? start.partId ?? "",
      cause: about?.cause ?? "",
      advice: about?.advice ?? "",
      partsNeeded: about?.partsNeeded ?? "",
      minutes: about?.minutes?.toString() ?? "",
    },
  });
  const { register } = form;
  const { errors } = form.formState;
  const severity = useWatch({ control: form.control, name: "severity" });
  const go = ({ minutes, partId, ...said }: z.output<typeof formSchema>): string | undefined => {
    const place =
      map.parts.find((p) => p.id === partId)?.place ?? about?.place ?? start.place ?? "";
    const facts = { ...said, partId: partId || null, place, minutes: minutes ?? null };
    return about
      ? enter({ type: "changed", ...facts }, about)
      : enter({ type: "found", ...facts }, undefined, id);
  };
  return (
    <Sheet open onClose={onClose} title={about ? "Correct the finding" : "A finding"}>
      <SheetForm
        form={form}
        act={about ? "Keep the correction" : "Write it down"}
        onAct={go}
        onClose={onClose}
      >
        <AreaField
          label="What was found?"
          maxLength={300}
          problem={errors.what?.message}
          {...register("what")}
        />
        <fieldset className="mt-2">
          <legend className="text-[15px] font-semibold">How bad?</legend>
          <Choices
            each="block"
            of={SEVERITIES.map((s) => ({
              value: s,
              label: (
                <>
                  <b className={s === "unsafe" ? "text-rust" : ""}>{SEVERITY_LABELS[s]}</b>{" "}
                  <span className="text-muted">{SAYS[s]}</span>
                </>
              ),
            }))}
            {...register("severity")}
          />
        </fieldset>
        {severity === "unsafe" && (
          <p className="border-l-4 border-rust bg-rust-soft p-2 text-[15px]">
            Make it safe first and tell the lead. Gas, mains electricity and pressure vessels are
            for licensed trades.
          </p>
        )}
        <PartSelect parts={map.parts} {...register("partId")} />
        <Field label="Cause, if known" className="mt-2" maxLength={500} {...register("cause")} />
        <Field label="What is advised" className="mt-2" maxLength={500} {...register("advice")} />
        <Field label="Parts needed" className="mt-2" maxLength={300} {...register("partsNeeded")} />
        <Field
          label="Time to mend it, minutes"
          className="mt-2"
          inputMode="numeric"
          problem={errors.minutes?.message}
          {...register("minutes")}
        />
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
