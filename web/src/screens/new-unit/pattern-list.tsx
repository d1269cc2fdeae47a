import { PATTERNS, type Pattern } from "@uppershed/core/patterns";

/** The families, one line each; the one chosen is drawn beside them. */
export const PatternList = ({
  chosen,
  onChoose,
}: {
  chosen: Pattern | undefined;
  onChoose: (pattern: Pattern) => void;
}) => (
  <fieldset className="min-h-0">
    <legend className="text-[15px] font-bold">Which family does it belong to?</legend>
    <ul className="mt-2">
      {PATTERNS.map((pattern) => {
        const on = pattern.id === chosen?.id;
        return (
          <li key={pattern.id} className={`border-t border-line ${on ? "bg-green-soft" : ""}`}>
            <label className="flex min-h-11 cursor-pointer items-start gap-3 px-2 py-2 text-[15px] hover:bg-green-soft">
              <input
                type="radio"
                name="family"
                className="mt-1 size-5 shrink-0 accent-[var(--green)]"
                checked={on}
                onChange={() => onChoose(pattern)}
              />
              <span>
                <b>{pattern.label}</b>
                {on && <span className="block text-[14px] text-muted">{pattern.about}</span>}
              </span>
            </label>
          </li>
        );
      })}
    </ul>
  </fieldset>
);
