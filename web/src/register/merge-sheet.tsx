import { type ReactNode, useState } from "react";
import { problemText } from "../store/api.ts";
import { Button } from "../ui/button.tsx";
import { Field } from "../ui/field.tsx";
import { Sheet } from "../ui/sheet.tsx";

/** Which one is a double: found by its words, what will come of it said, put together. */
export const MergeSheet = <T extends { readonly id: string }>({
  title,
  listed,
  found,
  renderLine,
  renderExplain,
  words,
  setWords,
  error,
  busy,
  onMerge,
  onClose,
}: {
  title: string;
  listed: string;
  found: readonly T[];
  renderLine: (one: T) => ReactNode;
  renderExplain: (one: T) => ReactNode;
  words: string;
  setWords: (words: string) => void;
  error: unknown;
  busy: boolean;
  /** Whether it went through. */
  onMerge: (one: T) => Promise<boolean>;
  onClose: () => void;
}) => {
  const [double, setDouble] = useState<T>();
  const go = async (): Promise<void> => {
    if (double && (await onMerge(double))) onClose();
  };
  return (
    <Sheet open onClose={onClose} title={title}>
      <Field
        label="Find"
        maxLength={100}
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      <ul className="mt-2" aria-label={listed}>
        {found.map((one) => (
          <li key={one.id}>
            <button
              type="button"
              aria-pressed={double?.id === one.id}
              className={`min-h-11 w-full px-2 text-left ${double?.id === one.id ? "bg-green text-on-green" : "hover:bg-green-soft"}`}
              onClick={() => setDouble(one)}
            >
              {renderLine(one)}
            </button>
          </li>
        ))}
      </ul>
      {double && <p className="mt-2 text-[15px]">{renderExplain(double)}</p>}
      {error !== undefined && (
        <p role="alert" className="mt-2 text-rust">
          {problemText(error)}
        </p>
      )}
      <Button look="act" big className="mt-3" disabled={!double || busy} onClick={() => void go()}>
        Put together
      </Button>
    </Sheet>
  );
};
