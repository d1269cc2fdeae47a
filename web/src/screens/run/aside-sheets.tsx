import { type FindingSeverity, SEVERITIES, SEVERITY_LABELS } from "@uppershed/core/inspection";
import { type Step } from "@uppershed/core/procedure";
import { useState } from "react";
import type { LiveRun } from "../../run/use-run.ts";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { PartSelect } from "../../ui/part-select.tsx";
import { Sheet } from "../../ui/sheet.tsx";

const REASONS = [
  "Cannot be reached",
  "Seized or broken",
  "Owner said no",
  "Not fitted on this unit",
] as const;

interface AsideProps {
  readonly open: boolean;
  readonly step: Step;
  readonly live: LiveRun;
  readonly onClose: () => void;
}

/** "Can't do this": which part, and why. The sheet plans again and says what stays unprotected. */
export const CannotSheet = (props: AsideProps) => (
  <Sheet open={props.open} onClose={props.onClose} title="What can't be done here?">
    {props.open && <CannotForm key={props.step.id} {...props} />}
  </Sheet>
);

const CannotForm = ({ step, live, onClose }: AsideProps) => {
  const { state, add } = live;
  const parts = step.parts.flatMap((id) => state.network.map.parts.find((p) => p.id === id) ?? []);
  const [chosen, setChosen] = useState<string[]>(
    parts.length === 1 && parts[0] ? [parts[0].id] : [],
  );
  const [reason, setReason] = useState("");
  const go = async (): Promise<string | undefined> => {
    if (chosen.length === 0) return "Choose the part that can't be done.";
    if (reason.trim() === "") return "Say why, so that the record and the owner know.";
    return add({ type: "step-cannot", stepId: step.id, parts: chosen, reason: reason.trim() });
  };
  return (
    <SheetForm act="Plan again without it" look="rust" onAct={go} onClose={onClose}>
      <p className="text-muted">
        "{step.title}". The plan is made again without it, and says what stays unprotected.
      </p>
      <fieldset className="mt-3">
        <legend className="font-semibold">Which part?</legend>
        <div className="grid grid-cols-2 gap-1">
          {parts.map((part) => (
            <label key={part.id} className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-[var(--green)]"
                checked={chosen.includes(part.id)}
                onChange={(e) =>
                  setChosen((now) =>
                    e.target.checked ? [...now, part.id] : now.filter((id) => id !== part.id),
                  )
                }
              />
              {part.tag ? `${part.tag} ` : ""}
              {part.name}
            </label>
          ))}
        </div>
      </fieldset>
      <label className="mt-3 block font-semibold">
        Why?
        <textarea
          className="field mt-1 min-h-20 w-full py-2 font-normal"
          maxLength={2000}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
      </label>
      <div className="mt-1 flex flex-wrap gap-2">
        {REASONS.map((r) => (
          <button
            key={r}
            type="button"
            onClick={() => setReason(r)}
            className="min-h-11 rounded border border-line bg-raised px-3 text-[14px] hover:border-green"
          >
            {r}
          </button>
        ))}
      </div>
    </SheetForm>
  );
};

/** A note, or something noticed on the way: written down, and back at the same step. */
export const NoticedSheet = (props: AsideProps) => (
  <Sheet open={props.open} onClose={props.onClose} title="Note or fault">
    {props.open && <NoticedForm {...props} />}
  </Sheet>
);

const NoticedForm = ({ step, live, onClose }: AsideProps) => {
  const [words, setWords] = useState("");
  const [severity, setSeverity] = useState<FindingSeverity>("note");
  const [part, setPart] = useState("");
  const { parts } = live.state.network.map;
  const go = async (): Promise<string | undefined> => {
    if (words.trim() === "") return "Say what it is.";
    if (severity === "note" && !part)
      return live.add({ type: "note", stepId: step.id, text: words.trim() });
    return live.add({
      type: "noticed",
      stepId: step.id,
      severity,
      text: words.trim(),
      ...(part ? { part } : {}),
    });
  };
  return (
    <SheetForm act="Write it down" onAct={go} onClose={onClose}>
      <label className="block font-semibold">
        What is it?
        <textarea
          className="field mt-1 min-h-24 w-full py-2 font-normal"
          maxLength={2000}
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
      </label>
      <fieldset className="mt-3">
        <legend className="font-semibold">How bad?</legend>
        <div className="flex flex-wrap gap-4">
          {SEVERITIES.toReversed().map((s) => (
            <label key={s} className="flex min-h-11 items-center gap-2">
              <input
                type="radio"
                name="severity"
                className="size-5 accent-[var(--green)]"
                checked={severity === s}
                onChange={() => setSeverity(s)}
              />
              {SEVERITY_LABELS[s]}
            </label>
          ))}
        </div>
      </fieldset>
      <PartSelect parts={parts} value={part} onChange={setPart} />
      {severity === "unsafe" && (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2">
          A danger to people or the hull: stop, make it safe and tell the lead before going on.
        </p>
      )}
    </SheetForm>
  );
};
