/** Minutes as people say them. */
export function minutesWords(minutes: number | null | undefined): string {
  if (minutes == null) return 'not known yet'
  if (minutes < 90) return `${Math.round(minutes)} min`
  if (minutes < 60 * 36) return `${Math.round(minutes / 60)} h`
  return `${Math.round(minutes / 60 / 24)} days`
}
