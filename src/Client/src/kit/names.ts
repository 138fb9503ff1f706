/** What people call an entry of the library of settings. */
export const entryName = (number: number) => `E-${String(number).padStart(4, '0')}`

/** What people call a test piece. */
export const pieceName = (number: number) => `T-${String(number).padStart(4, '0')}`

/** With its first letter large, as a heading or a line begins. */
export const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)

/** Names in a row, the first dozen, and how many more there are. */
export const namesInARow = (names: readonly string[]) =>
  names.slice(0, 12).join(', ') + (names.length > 12 ? ` and ${names.length - 12} more` : '')
