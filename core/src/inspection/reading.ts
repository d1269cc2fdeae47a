/**
 * What a reading is of: a part, the place on it, and the kind of figure; never the words that it was asked with. Readings with one key
 * are one line over the years.
 */
export interface ReadingOf {
  /** Part on the map; none where it is of the whole unit. */
  readonly partId: string | null;
  /** Opening, cell or point of the part: "cold", "vessel"; empty for the part as such. */
  readonly spot: string;
  /** Kind of figure: "strength", "recovered", "still". */
  readonly kind: string;
}

/** The key under which readings of one thing are followed. It is compared, never taken apart. */
export const readingKey = ({ partId, spot, kind }: ReadingOf): string =>
  `${partId ?? "unit"}/${spot || "-"}/${kind}`;
