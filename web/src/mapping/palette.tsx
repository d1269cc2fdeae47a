import { PART_KINDS } from "@uppershed/core/watermap";
import { Command } from "cmdk";
import { useState } from "react";

const GROUPS = [
  "ways in",
  "tanks",
  "movers",
  "conditioning",
  "control",
  "heat",
  "outlets",
  "drains",
  "waste",
  "line",
] as const;

/** How well a part fits what was typed: its own first letters first, then those of any word, then of any other word the trade has. */
export const fit = (label: string, typed: string, keywords: readonly string[] = []): number => {
  const wanted = typed.trim().toLowerCase();
  const name = label.toLowerCase();
  const begins = (text: string): boolean =>
    text.split(/[^a-z0-9?]+/u).some((word) => word.startsWith(wanted));
  if (wanted === "") return 1;
  if (name.startsWith(wanted)) return 1;
  if (begins(name) || name.includes(` ${wanted}`)) return 0.8;
  if (keywords.some((word) => word.toLowerCase().startsWith(wanted))) return 0.7;
  if (keywords.some((word) => begins(word.toLowerCase()))) return 0.5;
  return wanted.length > 2 && name.includes(wanted) ? 0.2 : 0;
};

/** Puts the cursor behind what has been typed. */
const focusOnce = (input: HTMLInputElement | null): void => input?.focus();

/** Every part, found by its first letters or by any other word the trade has for it. */
export const Palette = ({
  first,
  onChoose,
  onClose,
}: {
  first: string;
  onChoose: (kind: string) => void;
  onClose: () => void;
}) => {
  const [typed, setTyped] = useState(first);
  return (
    <Command
      label="Add a part"
      filter={fit}
      className="w-[340px] max-w-[calc(100vw-2rem)] border-4 border-green bg-paper shadow-2xl"
      onKeyDown={(event) => {
        if (event.key === "Escape") {
          event.stopPropagation();
          onClose();
        }
      }}
    >
      <Command.Input
        // The palette is opened to type into it.
        ref={focusOnce}
        value={typed}
        onValueChange={setTyped}
        placeholder="Part, by its first letters"
        className="field w-full rounded-none border-x-0 border-t-0 text-[17px]"
      />
      <Command.List className="max-h-[46dvh] overflow-auto p-1" label="Parts">
        <Command.Empty className="p-3 text-muted">
          No part is called that. Try another word, or "not known yet".
        </Command.Empty>
        {GROUPS.map((group) => (
          <Command.Group
            key={group}
            heading={group}
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[13px] [&_[cmdk-group-heading]]:text-muted"
          >
            {[...PART_KINDS.values()]
              .filter((kind) => kind.group === group)
              .map((kind) => (
                <Command.Item
                  key={kind.kind}
                  value={kind.label}
                  keywords={[...(kind.also ?? []), kind.kind]}
                  onSelect={() => onChoose(kind.kind)}
                  className="flex min-h-11 cursor-pointer items-center px-2 data-[selected=true]:bg-green data-[selected=true]:text-on-green"
                >
                  {kind.label}
                </Command.Item>
              ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  );
};
