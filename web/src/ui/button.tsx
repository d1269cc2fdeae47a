import type { ButtonHTMLAttributes } from "react";

type Look = "act" | "plain" | "quiet" | "rust";

const LOOKS: Record<Look, string> = {
  act: "bg-green text-on-green border-green hover:brightness-110",
  plain: "bg-raised text-green border-green hover:bg-green-soft",
  quiet: "bg-transparent text-ink border-transparent hover:bg-green-soft",
  rust: "bg-rust text-on-rust border-rust hover:brightness-110",
};

/** A button; `big` at the unit, where gloves are worn. */
export const Button = ({
  look = "plain",
  big = false,
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look; big?: boolean }) => (
  <button
    type="button"
    className={`inline-flex items-center justify-center gap-2 rounded border-[1.5px] px-4 font-semibold disabled:cursor-not-allowed disabled:opacity-50 ${big ? "min-h-[54px] text-[17px]" : "min-h-[44px] text-[15px]"} ${LOOKS[look]} ${className}`}
    {...rest}
  />
);
