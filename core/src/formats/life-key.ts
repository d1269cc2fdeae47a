/** Key of a life: the part's id, or id and item for a piece that wears by itself. */
export const lifeKey = (partId: string, item: string): string =>
  item === "" ? partId : `${partId}/${item}`;
