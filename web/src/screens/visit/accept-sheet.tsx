import type { Visit } from "@uppershed/contract";
import { useForm } from "react-hook-form";
import { problemText, useChangeVisitMutation } from "../../store/api.ts";
import { Field } from "../../ui/field.tsx";
import { SheetForm } from "../../ui/sheet-form.tsx";
import { Sheet } from "../../ui/sheet.tsx";
import { useUnits } from "../../ui/units.ts";

/** A unit that does not hold the winter low is handed over only when somebody accepts that, by name. */
export const AcceptSheet = ({
  visit,
  to,
  onClose,
}: {
  visit: Visit;
  to: Visit["state"];
  onClose: () => void;
}) => {
  const { holds, q } = useUnits();
  const [change] = useChangeVisitMutation();
  const form = useForm({ defaultValues: { who: "", why: "" } });
  const { errors } = form.formState;
  return (
    <Sheet open onClose={onClose} title="Who accepts that?">
      <SheetForm
        form={form}
        act="Accepted so"
        look="rust"
        onClose={onClose}
        onAct={async (accepted) => {
          const reply = await change({ id: visit.id, change: { state: to, accepted } });
          return reply.error && problemText(reply.error);
        }}
      >
        <p>
          {visit.unitName} holds to <b>{holds(visit.short?.holdsToC ?? null)}</b>; the winter low is{" "}
          {q(visit.short?.winterLowC ?? 0, "temperature")}
          {visit.short && (visit.short.holdsToC ?? -99) <= visit.short.winterLowC
            ? ", but it rests on a part of which nothing is known"
            : ""}
          . It stands on the report, with the name of whoever accepts it.
        </p>
        <Field
          label="Who accepts it"
          className="mt-3"
          maxLength={120}
          placeholder="the owner, by telephone"
          problem={errors.who?.message}
          {...form.register("who", { validate: (t) => t.trim() !== "" || "Say who accepts it." })}
        />
        <Field
          label="Why"
          className="mt-2"
          maxLength={300}
          problem={errors.why?.message}
          {...form.register("why", { validate: (t) => t.trim() !== "" || "Say why." })}
        />
      </SheetForm>
    </Sheet>
  );
};
