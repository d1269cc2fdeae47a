import type { ReactNode } from "react";
import { Link } from "react-router";

/** In the bar: what the screen is about, and the way back to it. */
export const BarLink = ({ to, children }: { to: string; children: ReactNode }) => (
  <Link
    to={to}
    className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px] text-on-bar hover:bg-white/10"
  >
    {children}
  </Link>
);
