import type { Notice } from "@uppershed/core/simulation";
import { TriangleAlert } from "lucide-react";
import { useUnits } from "../ui/units.ts";

/** What is worth a word about what moved, or would. */
export const Notices = ({ notices }: { notices: readonly Notice[] }) => {
  const { text } = useUnits();
  return (
    <ul>
      {notices.map((n) => (
        <li
          key={`${n.code} ${n.parts.join(" ")}`}
          className="flex gap-1.5 py-0.5 text-[14px] text-rust"
        >
          <TriangleAlert aria-label="Worth a word" size={16} className="mt-0.5 shrink-0" />
          <span>{text(n.message)}</span>
        </li>
      ))}
    </ul>
  );
};
