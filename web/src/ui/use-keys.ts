import { useEffect, useEffectEvent } from "react";
import { tinykeys } from "tinykeys";

/** What keys do, by the key in the notation of tinykeys: "n", "g b", "$mod+z", "[Shift]+?". */
export type Keys = Readonly<Record<string, (event: KeyboardEvent) => void>>;

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/u.test(target.tagName));

const busy = (event: KeyboardEvent): boolean =>
  event.defaultPrevented ||
  typing(event.target) ||
  document.querySelector("[role=dialog]") !== null;

/**
 * Keys that act while their screen, or the mode of it that is on, is there: not while somebody types, and not while a sheet is open.
 * @param options whileTyping: they act in fields too, as a key for saving does
 */
export const useKeys = (
  on: boolean,
  keys: Keys,
  options?: { readonly whileTyping: boolean },
): void => {
  const names = Object.keys(keys).join("\n");
  const whileTyping = options?.whileTyping === true;
  const press = useEffectEvent((name: string, event: KeyboardEvent) => keys[name]?.(event));
  useEffect(() => {
    if (!on) return undefined;
    const bound = names
      .split("\n")
      .map((name) => [name, (event: KeyboardEvent) => press(name, event)] as const);
    const ignore = whileTyping ? () => false : busy;
    return tinykeys(window, Object.fromEntries(bound), { ignore });
  }, [on, names, whileTyping]);
};
