/** Names in a row, the first dozen, and how many more there are. */
export const namesInARow = (names: readonly string[]) =>
  names.slice(0, 12).join(', ') + (names.length > 12 ? ` and ${names.length - 12} more` : '')
