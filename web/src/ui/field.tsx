import { type ComponentProps, type ReactNode, useId } from "react";

interface Labelled {
  readonly label: ReactNode;
  readonly problem?: string | undefined;
}

/** The label of a field above it, and what is wrong in it below, told with it. */
const AsLabelled = ({
  label,
  problem,
  className,
  children,
}: Labelled & {
  className: string;
  children: (field: {
    id: string;
    "aria-invalid": true | undefined;
    "aria-describedby": string | undefined;
  }) => ReactNode;
}) => {
  const id = useId();
  const wrong = problem ? `${id}-no` : undefined;
  return (
    <div className={`text-[15px] ${className}`}>
      <label htmlFor={id} className="block font-semibold">
        {label}
      </label>
      {children({ id, "aria-invalid": wrong ? true : undefined, "aria-describedby": wrong })}
      {wrong && (
        <p id={wrong} role="alert" className="text-[14px] text-rust">
          {problem}
        </p>
      )}
    </div>
  );
};

/** A labelled field of a form. */
export const Field = ({
  label,
  problem,
  className = "",
  ...rest
}: ComponentProps<"input"> & Labelled) => (
  <AsLabelled label={label} problem={problem} className={className}>
    {(field) => <input className="field mt-1 w-full" {...field} {...rest} />}
  </AsLabelled>
);

/** The same for words that may take several lines. */
export const AreaField = ({
  label,
  problem,
  className = "",
  ...rest
}: ComponentProps<"textarea"> & Labelled) => (
  <AsLabelled label={label} problem={problem} className={className}>
    {(field) => <textarea className="field mt-1 w-full py-2" {...field} {...rest} />}
  </AsLabelled>
);

/** One of several, or with `type="checkbox"` any of them: give it what a form's register gives. */
export const Choices = ({
  of,
  each = "flex gap-x-5",
  type = "radio",
  ...rest
}: Omit<ComponentProps<"input">, "type"> & {
  of: readonly { readonly value: string; readonly label: ReactNode }[];
  type?: "radio" | "checkbox";
  /** How they stand to each other. */
  each?: string;
}) => (
  <div className={`flex-wrap ${each}`}>
    {of.map(({ value, label }) => (
      <label key={value} className="flex min-h-11 items-center gap-2">
        <input type={type} className="size-5 accent-[var(--green)]" value={value} {...rest} />
        {label}
      </label>
    ))}
  </div>
);

/** A link that looks like what is done next. */
export const ACT_LINK =
  "inline-flex min-h-[54px] items-center gap-2 rounded bg-green px-5 text-[17px] font-semibold text-on-green";
export const PLAIN_LINK =
  "inline-flex min-h-[54px] items-center gap-2 rounded border-[1.5px] border-green bg-raised px-5 text-[17px] font-semibold text-green";
