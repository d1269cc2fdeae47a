import type { InputHTMLAttributes } from "react";

/** A labelled field of a form, with what is wrong in it below. */
export const Field = ({
  label,
  problem,
  className = "",
  ...rest
}: InputHTMLAttributes<HTMLInputElement> & { label: string; problem?: string | undefined }) => (
  <label className={`block text-[15px] ${className}`}>
    <span className="font-semibold">{label}</span>
    <input className="field mt-1 w-full" aria-invalid={problem ? true : undefined} {...rest} />
    {problem && (
      <span role="alert" className="block text-[14px] text-rust">
        {problem}
      </span>
    )}
  </label>
);

/** A link that looks like what is done next. */
export const ACT_LINK =
  "inline-flex min-h-[54px] items-center gap-2 rounded bg-green px-5 text-[17px] font-semibold text-on-green";
export const PLAIN_LINK =
  "inline-flex min-h-[54px] items-center gap-2 rounded border-[1.5px] border-green bg-raised px-5 text-[17px] font-semibold text-green";
