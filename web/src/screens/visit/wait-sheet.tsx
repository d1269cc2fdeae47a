import { zodResolver } from "@hookform/resolvers/zod";
import type { Visit } from "@uppershed/contract";
import { type VisitWait, WAIT_LABELS, WAITS } from "@uppershed/core/inspection";
import { addMinutes } from "date-fns";
import { useForm } from "react-hook-form";
import { z } from "zod";
import { useChangeVisitMutation } from "../../store/api.ts";
import { minutesSchema } from "../../ui/chosen.ts";
import { Choices, Field } from "../../ui/field.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";

const formSchema = z.object({
  what: z.enum(WAITS),
  minutes: minutesSchema("Minutes until it is to be looked at, or nothing.", 100_000),
});

/** What the unit waits for, and how long where that is known. */
export const WaitSheet = ({ visit, onClose }: { visit: Visit; onClose: () => void }) => {
  const [change] = useChangeVisitMutation();
  const form = useForm({
    resolver: zodResolver(formSchema),
    defaultValues: { what: "soaking" as VisitWait, minutes: "" },
  });
  const go = ({ what, minutes }: z.output<typeof formSchema>): undefined => {
    const waitingUntil =
      minutes === undefined ? null : addMinutes(new Date(), minutes).toISOString();
    void change({ id: visit.id, change: { state: "waiting", waitingFor: what, waitingUntil } });
  };
  return (
    <Sheet open onClose={onClose} title="What does it wait for?">
      <SheetForm form={form} act="It waits" onAct={go} onClose={onClose}>
        <fieldset>
          <legend className="sr-only">What it waits for</legend>
          <Choices
            of={WAITS.map((w) => ({ value: w, label: WAIT_LABELS[w] }))}
            {...form.register("what")}
          />
        </fieldset>
        <Field
          label="Minutes, where they are known"
          className="mt-2"
          inputMode="numeric"
          problem={form.formState.errors.minutes?.message}
          {...form.register("minutes")}
        />
      </SheetForm>
    </Sheet>
  );
};
