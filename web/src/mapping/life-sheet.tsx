import { zodResolver } from "@hookform/resolvers/zod";
import type { RegisteredPart } from "@uppershed/contract";
import { CONDITIONS } from "@uppershed/core/formats";
import { useForm } from "react-hook-form";
import { z } from "zod";
import { problemText, useChangeLifeMutation } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { Sheet } from "../ui/sheet.tsx";

const day = z.union([z.literal(""), z.iso.date("A day, as 2026-04-30.")]);
const formSchema = z.object({
  description: z.string().trim().max(200, "At most 200 letters."),
  serial: z.string().trim().max(60, "At most 60 letters."),
  size: z.string().trim().max(60, "At most 60 letters."),
  fittedOn: day,
  expectedLifeMonths: z.union([
    z.literal(""),
    z.string().regex(/^\d{1,4}$/u, "A number of months."),
  ]),
  condition: z.enum(CONDITIONS),
  lookedAt: day,
  note: z.string().trim().max(500, "At most 500 letters."),
});
type Form = z.infer<typeof formSchema>;

const FIELDS = [
  ["description", "Description", "text"],
  ["serial", "Serial number", "text"],
  ["size", "Size", "text"],
  ["fittedOn", "Fitted on", "date"],
  ["expectedLifeMonths", "Expected life, months", "text"],
  ["lookedAt", "Last looked at", "date"],
  ["note", "Note", "text"],
] as const;

/** What is kept of one part over the years, open to be changed. */
export const LifeSheet = ({ part, onClose }: { part: RegisteredPart; onClose: () => void }) => {
  const [change, changing] = useChangeLifeMutation();
  const { life } = part;
  const {
    register,
    handleSubmit,
    formState: { errors },
  } = useForm<Form>({
    resolver: zodResolver(formSchema),
    defaultValues: {
      ...life,
      fittedOn: life.fittedOn ?? "",
      lookedAt: life.lookedAt ?? "",
      expectedLifeMonths: life.expectedLifeMonths === null ? "" : String(life.expectedLifeMonths),
    },
  });
  const save = handleSubmit(async (form) => {
    const reply = await change({
      unitId: part.unitId,
      partId: part.partId,
      item: part.item,
      change: {
        ...form,
        fittedOn: form.fittedOn || null,
        lookedAt: form.lookedAt || null,
        expectedLifeMonths: form.expectedLifeMonths === "" ? null : Number(form.expectedLifeMonths),
      },
    });
    if (!reply.error) onClose();
  });
  return (
    <Sheet
      open
      onClose={onClose}
      title={`${part.unitName}: ${part.name}${part.item ? `, ${part.item}` : ""}`}
    >
      <form onSubmit={(event) => void save(event)} noValidate>
        {FIELDS.map(([field, label, type]) => (
          <label key={field} className="mb-2 block text-[15px]">
            {label}
            <input
              type={type}
              className="field mt-0.5 w-full"
              aria-invalid={errors[field] ? true : undefined}
              {...register(field)}
            />
            {errors[field] && (
              <span role="alert" className="block text-[14px] text-rust">
                {errors[field].message}
              </span>
            )}
          </label>
        ))}
        <label className="mb-2 block text-[15px]">
          Condition
          <select className="field mt-0.5 w-full" {...register("condition")}>
            {CONDITIONS.map((condition) => (
              <option key={condition}>{condition}</option>
            ))}
          </select>
        </label>
        {changing.error && (
          <p role="alert" className="text-rust">
            {problemText(changing.error)}
          </p>
        )}
        <Button type="submit" look="act" big className="mt-2" disabled={changing.isLoading}>
          Keep
        </Button>
      </form>
    </Sheet>
  );
};
