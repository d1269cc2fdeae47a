const segmenter = new Intl.Segmenter();

/**
 * The beginning of a text in whole letters as people count them: a sign that is written in several pieces is not cut in two.
 * @param most longest that it may be, in UTF-16 units, as fields and columns count
 */
export const wholeLetters = (text: string, most: number): string => {
  if (text.length <= most) return text;
  let cut = "";
  for (const { segment } of segmenter.segment(text)) {
    if (cut.length + segment.length > most) break;
    cut += segment;
  }
  return cut;
};
