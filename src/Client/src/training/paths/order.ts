/** The list with two places exchanged. */
export const swapped = <T>(list: T[], a: number, b: number): T[] =>
  list.map((x, i) => (i === a ? list[b]! : i === b ? list[a]! : x))
