/** What somebody typed as a number; null where it is none, with a comma or a point. */
export function numberOf(text: string): number | null {
  const plain = text.trim().replace(',', '.')
  return plain !== '' && /^-?\d+(\.\d+)?$/.test(plain) ? Number(plain) : null
}
