/** What flows read at outlets say: weak at one of them, or everywhere (E11). */

export interface FlowRead {
  readonly name: string;
  readonly isHot: boolean;
  readonly m3PerS: number;
}

// One below half of the middle is that outlet's own (common practice, no source).
const LOCAL_BELOW = 0.5;
// A pump of a small unit gives about 7 L/min at a tap; under 4 the whole of it is weak (common practice, no source).
const WEAK_M3_PER_S = 4e-3 / 60;
const LEAST_READ = 3;

const middleOf = (values: readonly number[]): number => {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
};

/** A sentence each; none where fewer than three were read, or nothing stands out. */
export const flowVerdict = (read: readonly FlowRead[]): string[] => {
  if (read.length < LEAST_READ) return [];
  const middle = middleOf(read.map((r) => r.m3PerS));
  const hot = read.filter((r) => r.isHot);
  const cold = read.filter((r) => !r.isHot);
  const hotWeak =
    hot.length > 1 &&
    cold.length > 0 &&
    middleOf(hot.map((r) => r.m3PerS)) < LOCAL_BELOW * middleOf(cold.map((r) => r.m3PerS));
  const local = read.filter((r) => r.m3PerS < LOCAL_BELOW * middle && !(hotWeak && r.isHot));
  return [
    ...(hotWeak ? ["All hot outlets are weak: the heater, its valves or its check."] : []),
    ...local.map(
      (r) =>
        `${r.name} gives less than half of the middle one: its own screen first, then its valve.`,
    ),
    ...(middle < WEAK_M3_PER_S ? ["Weak everywhere: strainer, selector, pump or supply."] : []),
  ];
};
