import { zodResolver } from "@hookform/resolvers/zod";
import { type FindingSeverity, SEVERITIES, SEVERITY_LABELS } from "@uppershed/core/inspection";
import { type Step } from "@uppershed/core/procedure";
import { useForm, useWatch } from "react-hook-form";
import { z } from "zod";
import type { LiveRun } from "../../run/use-run.ts";
import { chosenSchema } from "../../ui/chosen.ts";
import { AreaField, Choices } from "../../ui/field.tsx";
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

const cannotSchema = z.object({
  chosen: chosenSchema.refine((c) => c.length > 0, "Choose the part that can't be done."),
  reason: z.string().trim().min(1, "Say why, so that the sheet and the owner know."),
});

const CannotForm = ({ step, live, onClose }: AsideProps) => {
  const { state, add } = live;
  const parts = step.parts.flatMap((id) => state.network.map.parts.find((p) => p.id === id) ?? []);
  const form = useForm({
    resolver: zodResolver(cannotSchema),
    defaultValues: { chosen: parts.length === 1 && parts[0] ? [parts[0].id] : [], reason: "" },
  });
  const { errors } = form.formState;
  const go = ({ chosen, reason }: z.output<typeof cannotSchema>) =>
    add({ type: "step-cannot", stepId: step.id, parts: chosen, reason });
  return (
    <SheetForm form={form} act="Plan again without it" look="rust" onAct={go} onClose={onClose}>
      <p className="text-muted">
        "{step.title}". The plan is made again without it, and says what stays unprotected.
      </p>
      <fieldset className="mt-3">
        <legend className="font-semibold">Which part?</legend>
        <Choices
          type="checkbox"
          each="grid grid-cols-2 gap-1"
          of={parts.map((part) => ({
            value: part.id,
            label: `${part.tag ? `${part.tag} ` : ""}${part.name}`,
          }))}
          {...form.register("chosen")}
        />
        {errors.chosen && (
          <p role="alert" className="text-rust">
            {errors.chosen.message}
          </p>
        )}
      </fieldset>
      <AreaField
        label="Why?"
        className="mt-3"
        maxLength={2000}
        problem={errors.reason?.message}
        {...form.register("reason")}
      />
      <div className="mt-1 flex flex-wrap gap-2">
        {REASONS.map((r) => (
          <button
            key={r}
            type="button"
            onClick={() => form.setValue("reason", r)}
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

const noticedSchema = z.object({
  words: z.string().trim().min(1, "Say what it is."),
  severity: z.enum(SEVERITIES),
  part: z.string(),
});

const NoticedForm = ({ step, live, onClose }: AsideProps) => {
  const form = useForm({
    resolver: zodResolver(noticedSchema),
    defaultValues: { words: "", severity: "note" as FindingSeverity, part: "" },
  });
  const severity = useWatch({ control: form.control, name: "severity" });
  const { parts } = live.state.network.map;
  const go = ({ words, severity: bad, part }: z.output<typeof noticedSchema>) =>
    bad === "note" && !part
      ? live.add({ type: "note", stepId: step.id, text: words })
      : live.add({
          type: "noticed",
          stepId: step.id,
          severity: bad,
          text: words,
          ...(part ? { part } : {}),
        });
  return (
    <SheetForm form={form} act="Write it down" onAct={go} onClose={onClose}>
      <AreaField
        label="What is it?"
        maxLength={2000}
        problem={form.formState.errors.words?.message}
        {...form.register("words")}
      />
      <fieldset className="mt-3">
        <legend className="font-semibold">How bad?</legend>
        <Choices
          of={SEVERITIES.toReversed().map((s) => ({ value: s, label: SEVERITY_LABELS[s] }))}
          {...form.register("severity")}
        />
      </fieldset>
      <PartSelect parts={parts} {...form.register("part")} />
      {severity === "unsafe" && (
        <p className="mt-2 border-l-4 border-rust bg-rust-soft p-2">
          A danger to people or the hull: stop, make it safe and tell the lead before going on.
        </p>
      )}
    </SheetForm>
  );
};
