import { formatQuantity, gaugeText } from "./format.ts";
import type { UnitSystem } from "./measures.ts";

const MARK = /\{(m3|c|m|pa|s|g|n):(-?[\d.e+-]+)\}/gu;

const KINDS: Readonly<
  Record<string, "volume" | "temperature" | "length" | "pressure" | "time" | "force">
> = {
  m3: "volume",
  c: "temperature",
  m: "length",
  pa: "pressure",
  s: "time",
  n: "force",
};

/** Sets the quantities of a text in the reader's units: "{m3:0.0087}" becomes "8.7 L" or "2.3 US gal", "{c:-18}" becomes "−18 °C". */
export const fillIn = (text: string, system: UnitSystem): string =>
  text.replace(MARK, (_, kind: string, value: string) =>
    kind === "g"
      ? gaugeText(Number(value), system)
      : formatQuantity(Number(value), KINDS[kind] ?? "volume", system),
  );
