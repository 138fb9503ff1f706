/** A number as it was typed; what is none goes as it stands, so that the server says so and nothing is lost. */
export const typedNumber = (text: string): number | null => {
  const plain = text.trim().replace(',', '.')
  if (plain === '') return null
  return Number.isFinite(Number(plain)) ? Number(plain) : (text as unknown as number)
}
