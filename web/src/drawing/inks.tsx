import { type Ink, INK_WORDS } from "@uppershed/core/drawing";

export const paint = (ink: Ink): string => (ink === "empty" ? "var(--empty)" : `url(#ink-${ink})`);

/** The patterns themselves; once a page. */
export const Inks = () => (
  <svg aria-hidden width="0" height="0" className="absolute">
    <defs>
      <pattern id="ink-water" width="12" height="12" patternUnits="userSpaceOnUse">
        <rect width="12" height="12" fill="var(--water)" />
      </pattern>
      <pattern id="ink-weak" width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--water)" />
        <circle cx="2" cy="2" r="1.5" fill="var(--glycol-pale)" />
        <circle cx="6" cy="6" r="1.5" fill="var(--glycol-pale)" />
      </pattern>
      <pattern
        id="ink-antifreeze"
        width="7"
        height="7"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="7" height="7" fill="var(--glycol-pale)" />
        <rect width="3.2" height="7" fill="var(--glycol)" />
      </pattern>
    </defs>
  </svg>
);

/** What the inks mean. */
export const Legend = ({ turning = false }: { turning?: boolean }) => (
  <ul aria-label="Legend" className="flex flex-wrap gap-x-4 gap-y-1 text-[13px]">
    {(["water", "weak", "antifreeze", "empty"] as const).map((ink) => (
      <li key={ink} className="flex items-center gap-1.5">
        <svg aria-hidden width="26" height="11">
          <rect
            x="1"
            y="1"
            width="24"
            height="9"
            fill={paint(ink)}
            stroke="var(--pipe)"
            strokeWidth="1.5"
          />
        </svg>
        {INK_WORDS[ink]}
      </li>
    ))}
    {turning && (
      <li className="flex items-center gap-1.5">
        <svg aria-hidden width="16" height="16">
          <circle cx="8" cy="8" r="6" fill="none" stroke="var(--rust)" strokeWidth="3" />
        </svg>
        turn now
      </li>
    )}
  </ul>
);
