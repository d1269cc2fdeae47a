import { zodResolver } from "@hookform/resolvers/zod";
import type { FindingOnFile } from "@uppershed/contract";
import {
  ANSWER_LABELS,
  ANSWERS,
  SEVERITY_LABELS,
  type FindingEntry,
  type OwnerAnswer,
} from "@uppershed/core/inspection";
import { type WaterMap } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link } from "react-router";
import { z } from "zod";
import { usePicturesNow } from "../sending/on-device.ts";
import { PictureButton } from "../pictures/picture-button.tsx";
import { PictureStrip } from "../pictures/picture-strip.tsx";
import { Button } from "../ui/button.tsx";
import { chosenSchema } from "../ui/chosen.ts";
import { Choices, Field } from "../ui/field.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { SheetForm } from "../ui/sheet-form.tsx";
import { useUnits } from "../ui/units.ts";
import { WithoutEffect } from "../ui/without-effect.tsx";
import { capital, dayOf, timeOf } from "../ui/words.ts";
import { FindingForm } from "./finding-form.tsx";
import { type Of, useFindingEntry } from "./use-finding-entry.ts";

type Doing = "answered" | "mended" | "accepted" | "reopened" | "changed";

const said = (entry: FindingEntry): string => {
  const { body } = entry;
  switch (body.type) {
    case "found":
      return `found: ${SEVERITY_LABELS[body.severity]}`;
    case "changed":
      return "corrected";
    case "answered":
      return `owner's answer: ${ANSWER_LABELS[body.answer]} (${body.who})`;
    case "mended":
      return `mended: ${body.how}; proved by ${body.proof}${body.undone.length > 0 ? `; ${body.undone.length} opened for it` : ""}`;
    case "accepted":
      return `left as it is: ${body.why}`;
    case "reopened":
      return `open again: ${body.why}`;
  }
};

/** What can have been opened to mend a part: itself, and the pipes at it. */
const openedNear = (map: WaterMap, partId: string | null): { id: string; name: string }[] => {
  const part = map.parts.find((p) => p.id === partId);
  if (!part) return [];
  const named = (id: string): string => map.parts.find((p) => p.id === id)?.name ?? id;
  const runs = map.runs.filter((r) => r.from.part === part.id || r.to.part === part.id);
  return [
    { id: part.id, name: part.name },
    ...runs.map((r) => ({
      id: r.id,
      name: `the pipe to ${named(r.from.part === part.id ? r.to.part : r.from.part)}`,
    })),
  ];
};

const entrySchema = z.object({
  answer: z.enum(ANSWERS),
  said: z.string().trim(),
  proof: z.string().trim(),
  undone: chosenSchema,
});

/** What is next to be said of a finding: the owner's answer, how it was mended, why it stays. */
const NextEntry = ({
  of,
  finding,
  map,
  doing,
  onClose,
}: {
  of: Of;
  finding: FindingOnFile;
  map: WaterMap;
  doing: Exclude<Doing, "changed">;
  onClose: () => void;
}) => {
  const enter = useFindingEntry(of);
  const near = useMemo(() => openedNear(map, finding.partId), [map, finding.partId]);
  const form = useForm({
    resolver: zodResolver(entrySchema),
    defaultValues: { answer: "do-it" as OwnerAnswer, said: "", proof: "", undone: [] as string[] },
  });
  const answer = useWatch({ control: form.control, name: "answer" });
  const go = (typed: z.output<typeof entrySchema>): string | undefined => {
    const { said: words, proof, undone } = typed;
    if (doing === "answered")
      return enter({ type: "answered", answer: typed.answer, who: words }, finding);
    if (doing === "mended") return enter({ type: "mended", how: words, proof, undone }, finding);
    return enter({ type: doing, why: words }, finding);
  };
  const line = (name: "said" | "proof", label: string) => (
    <Field label={label} className="mt-2" maxLength={500} {...form.register(name)} />
  );
  return (
    <div className="mt-3 border-t-2 border-green pt-3">
      <SheetForm form={form} act="Keep it" onAct={go} onClose={onClose}>
        {doing === "answered" && (
          <>
            <fieldset>
              <legend className="text-[15px] font-semibold">The owner says</legend>
              <Choices
                of={ANSWERS.map((a) => ({ value: a, label: ANSWER_LABELS[a] }))}
                {...form.register("answer")}
              />
            </fieldset>
            {line("said", "Who said so, and how")}
            {finding.severity === "unsafe" && answer === "no" && (
              <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2 text-[15px]">
                It stays on every later sheet of this unit until it is mended.
              </p>
            )}
          </>
        )}
        {doing === "mended" && (
          <>
            {line("said", "What was done")}
            {line("proof", "Which test proved it")}
            {near.length > 0 && (
              <fieldset className="mt-2">
                <legend className="text-[15px] font-semibold">Was anything undone for it?</legend>
                <p className="text-[14px] text-muted">
                  What was opened is not known to hold any more, until it is drained or filled
                  again.
                </p>
                <Choices
                  type="checkbox"
                  each="block"
                  of={near.map((n) => ({ value: n.id, label: n.name }))}
                  {...form.register("undone")}
                />
              </fieldset>
            )}
          </>
        )}
        {doing === "accepted" && line("said", "Why it stays as it is")}
        {doing === "reopened" && line("said", "Why it is open again")}
      </SheetForm>
    </div>
  );
};

/** One finding: what it is, what was said of it, and what comes next. */
export const FindingSheet = ({
  of,
  finding,
  map,
  onClose,
}: {
  of: Of;
  finding: FindingOnFile;
  map: WaterMap;
  onClose: () => void;
}) => {
  const { text } = useUnits();
  const pictures = usePicturesNow(of.unitId).filter((p) => p.aboutId === finding.id);
  const [doing, setDoing] = useState<Doing>();
  const part = map.parts.find((p) => p.id === finding.partId);
  if (doing === "changed")
    return <FindingForm of={of} map={map} about={finding} onClose={() => setDoing(undefined)} />;
  const open = finding.state === "open";
  return (
    <Sheet open onClose={onClose} title={text(finding.what)}>
      <p className="text-[15px]">
        <b className={finding.severity === "unsafe" ? "text-rust" : ""}>
          {capital(SEVERITY_LABELS[finding.severity])}
        </b>
        , {finding.state}.{" "}
        {part && (
          <>
            {part.tag ? `${part.tag} ` : ""}
            {part.name}
            {finding.place && `, ${finding.place}`}.{" "}
          </>
        )}
        <span className="text-muted">
          Found {dayOf(finding.foundAt)} by {finding.foundBy}, on map revision {finding.mapRevision}
          .
        </span>
      </p>
      <dl className="mt-2 text-[15px]">
        {(
          [
            ["Cause", finding.cause],
            ["Advised", finding.advice],
            ["Parts needed", finding.partsNeeded],
            ["Time to mend", finding.minutes === null ? "" : `${finding.minutes} min`],
            [
              "Owner",
              finding.answer
                ? `${ANSWER_LABELS[finding.answer.answer]} (${finding.answer.who}, ${dayOf(finding.answer.at)})`
                : "not asked yet",
            ],
          ] as const
        ).map(([label, value]) =>
          value ? (
            <div key={label} className="flex gap-3 border-t border-line py-1">
              <dt className="w-28 shrink-0 text-muted">{label}</dt>
              <dd>{text(value)}</dd>
            </div>
          ) : null,
        )}
      </dl>
      <PictureStrip pictures={pictures} />
      {doing ? (
        <NextEntry
          of={of}
          finding={finding}
          map={map}
          doing={doing}
          onClose={() => setDoing(undefined)}
        />
      ) : (
        <div className="mt-3 flex flex-wrap gap-2">
          {finding.state !== "mended" && (
            <>
              <Button look="act" onClick={() => setDoing("mended")}>
                Mended
              </Button>
              <Button onClick={() => setDoing("answered")}>Owner's answer</Button>
              {open && <Button onClick={() => setDoing("accepted")}>Leave as it is</Button>}
              <Link
                className="inline-flex min-h-11 items-center px-2 font-semibold text-green underline"
                to={`/units/${of.unitId}/refits?finding=${finding.id}&name=${encodeURIComponent(finding.what.slice(0, 80))}`}
              >
                Propose a refit
              </Link>
            </>
          )}
          {!open && <Button onClick={() => setDoing("reopened")}>Open again</Button>}
          <Button onClick={() => setDoing("changed")}>Correct it</Button>
          <PictureButton
            unitId={of.unitId}
            about="finding"
            aboutId={finding.id}
            label={`Picture of: ${finding.what}`}
          />
        </div>
      )}
      <WithoutEffect
        on="finding"
        entries={(finding.withoutEffect ?? []).map((e) => ({ ...e, what: `“${e.type}”` }))}
      />
      <h3 className="mt-4 text-[15px] font-bold">What was said of it</h3>
      <ol className="text-[14px]">
        {finding.entries.map((entry) => (
          <li key={entry.id} className="border-t border-line py-1">
            {text(said(entry))}{" "}
            <span className="text-muted">
              {dayOf(entry.at)} {timeOf(entry.at)}, {entry.by}
            </span>
          </li>
        ))}
      </ol>
    </Sheet>
  );
};
