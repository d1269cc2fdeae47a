/** One of the figures that run along the foot of a sheet. */
export const Meter = ({
  label,
  children,
  roomy = false,
}: {
  label: string;
  children: React.ReactNode;
  roomy?: boolean;
}) => (
  <div
    className={`${roomy ? "hidden md:block " : ""}min-w-0 border-l border-line px-3 py-1.5 first:border-l-0 xl:px-4 xl:py-2`}
  >
    <dt className="text-[13px] text-muted">{label}</dt>
    <dd className="text-[14px] leading-snug xl:text-[15px]">{children}</dd>
  </div>
);

export const Big = ({ children, rust = false }: { children: React.ReactNode; rust?: boolean }) => (
  <b
    className={`text-[21px] font-extrabold xl:text-[25px] leading-none ${rust ? "text-rust" : ""}`}
  >
    {children}
  </b>
);
