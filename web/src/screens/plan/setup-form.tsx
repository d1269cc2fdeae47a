import { zodResolver } from "@hookform/resolvers/zod";
import { type RunSetup, runSetupSchema } from "@uppershed/core/procedure";
import {
  type Dimension,
  formatQuantity,
  parseQuantity,
  type UnitSystem,
} from "@uppershed/core/quantity";
import { useEffect } from "react";
import type { Product } from "../../planning/house.ts";
import { type FieldErrors, useForm, type UseFormRegister } from "react-hook-form";
import { z } from "zod";

/** The settings of a plan as typed, with their units; each is read by the same reader as everywhere. */

const quantity = (dimension: Dimension, system: UnitSystem) =>
  z.string().superRefine((text, context) => {
    const read = parseQuantity(text, dimension, system);
    if (!read.ok) context.addIssue({ code: "custom", message: read.problem });
  });

const schemaFor = (system: UnitSystem) =>
  z.object({
    winterLow: quantity("temperature", system),
    strength: quantity("fraction", system),
    jug: quantity("volume", system),
    basis: z.enum(["by-part", "burst", "no-ice"]),
    name: z.string().trim().min(1, "what product is it?").max(80),
    lot: z.string().trim().max(60),
  });

type Typed = z.infer<ReturnType<typeof schemaFor>>;

const si = (text: string, dimension: Dimension, system: UnitSystem): number => {
  const read = parseQuantity(text, dimension, system);
  return read.ok ? read.quantity.si : Number.NaN;
};

const typedFrom = (of: RunSetup, system: UnitSystem): Typed => ({
  winterLow: formatQuantity(of.winterLowC, "temperature", system),
  strength: formatQuantity(of.product.strength, "fraction", system),
  jug: formatQuantity(of.product.jugM3, "volume", system),
  basis: of.basis,
  name: of.product.name,
  lot: of.product.lot ?? "",
});

const toSetup = (
  typed: Typed,
  base: RunSetup,
  products: readonly Product[],
  system: UnitSystem,
): unknown => {
  // What is shown is rounded: a figure that nobody touched stays what it is.
  const known = [base.product, ...products].find((p) => p.name === typed.name) ?? base.product;
  const shown = typedFrom({ ...base, product: known }, system);
  const kept = (name: "winterLow" | "strength" | "jug", dimension: Dimension, value: number) =>
    typed[name] === shown[name] ? value : si(typed[name], dimension, system);
  return {
    ...base,
    winterLowC: kept("winterLow", "temperature", base.winterLowC),
    basis: typed.basis,
    product: {
      name: typed.name,
      ...(typed.lot ? { lot: typed.lot } : {}),
      strength: kept("strength", "fraction", known.strength),
      jugM3: kept("jug", "volume", known.jugM3),
    },
  };
};

const Field = ({
  name,
  label,
  register,
  errors,
  hint,
}: {
  name: keyof Typed;
  label: string;
  register: UseFormRegister<Typed>;
  errors: FieldErrors<Typed>;
  hint?: string;
}) => (
  <label className="block text-[14px]">
    <span className="font-semibold">{label}</span>
    <input
      {...register(name)}
      className="field mt-0.5 w-full"
      aria-invalid={errors[name] ? true : undefined}
      aria-describedby={errors[name] ? `${name}-problem` : undefined}
    />
    {errors[name] ? (
      <span id={`${name}-problem`} role="alert" className="block text-rust">
        {errors[name]?.message}
      </span>
    ) : (
      hint && <span className="block text-[13px] text-muted">{hint}</span>
    )}
  </label>
);

export const SetupForm = ({
  base,
  products,
  system,
  onChange,
}: {
  base: RunSetup;
  /** Antifreeze of the workshop's own, to choose from. */
  products: readonly Product[];
  system: UnitSystem;
  onChange: (setup: RunSetup | undefined, problem?: string) => void;
}) => {
  const { register, formState, subscribe, setValue } = useForm<Typed>({
    resolver: zodResolver(schemaFor(system)),
    mode: "onChange",
    defaultValues: typedFrom(base, system),
  });
  useEffect(() => {
    const followed = ({ values }: { values: Typed }): void => {
      const read = schemaFor(system).safeParse(values);
      if (!read.success) return onChange(undefined);
      const setup = runSetupSchema.safeParse(toSetup(read.data, base, products, system));
      onChange(
        setup.success ? setup.data : undefined,
        setup.success ? undefined : setup.error.issues[0]?.message,
      );
    };
    return subscribe({ formState: { values: true }, callback: followed });
  }, [subscribe, base, products, system, onChange]);
  const { errors } = formState;
  return (
    <form className="grid grid-cols-2 gap-3" onSubmit={(e) => e.preventDefault()}>
      <Field name="winterLow" label="Winter low here" register={register} errors={errors} />
      <label className="block text-[14px]">
        <span className="font-semibold">Protected means</span>
        <select {...register("basis")} className="field mt-0.5 w-full">
          <option value="by-part">by part</option>
          <option value="burst">nothing bursts</option>
          <option value="no-ice">no ice at all</option>
        </select>
      </label>
      {products.length > 0 && (
        <label className="col-span-2 block text-[14px]">
          <span className="font-semibold">From the kit</span>
          <select
            className="field mt-0.5 w-full"
            onChange={(e) => {
              const product = products[Number(e.target.value)];
              if (!product) return;
              const { strength, jug, name, lot } = typedFrom({ ...base, product }, system);
              for (const [field, value] of Object.entries({ strength, jug, name, lot }))
                setValue(field as keyof Typed, value, { shouldValidate: true });
            }}
          >
            {products.map((p, i) => (
              <option key={p.name} value={i}>
                {p.name}, {formatQuantity(p.jugM3, "volume", system)}
              </option>
            ))}
          </select>
        </label>
      )}
      <Field name="strength" label="Strength in the jug" register={register} errors={errors} />
      <Field name="jug" label="Jug holds" register={register} errors={errors} />
      <Field name="name" label="Product" register={register} errors={errors} />
      <Field name="lot" label="Lot, if on the jug" register={register} errors={errors} />
    </form>
  );
};
