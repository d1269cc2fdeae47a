/** What to carry for several jobs, each thing once: one that another says with more to it is left to that one. */
export const loadList = (items: readonly string[]): string[] => {
  const once = [...new Set(items)];
  return once.filter((item) => !once.some((other) => other !== item && other.startsWith(item)));
};
