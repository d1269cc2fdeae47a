import type { ReactNode } from "react";
import { PlateHead } from "../drawing/plate-head.tsx";

/** The plate of what was tapped: beside the drawing on a wide screen, from below on a narrow one. */
export const PlateFrame = ({
  name,
  tag,
  right = false,
  short = false,
  onClose,
  children,
}: {
  name: string;
  tag?: string | undefined;
  /** On the right of the drawing, where what was tapped stands on the left. */
  right?: boolean;
  /** As tall as what is on it, and no taller. */
  short?: boolean;
  onClose: () => void;
  children: ReactNode;
}) => (
  <aside
    aria-label={`Plate of ${name}`}
    className={`absolute inset-x-0 bottom-0 z-20 flex max-h-[55%] flex-col overflow-auto border-t-4 border-green bg-paper p-4 shadow-xl md:inset-x-auto md:top-3 ${short ? "md:bottom-auto md:max-h-[calc(100%-1.5rem)]" : "md:bottom-3 md:max-h-none"} md:w-[330px] md:border-4 ${right ? "md:right-3" : "md:left-3"}`}
  >
    <PlateHead name={name} tag={tag} onClose={onClose} />
    {children}
  </aside>
);
