/** Formats instants on the house's wall clock. Turning a wall clock into an instant is the server's work alone. */
export class HouseTime {
  private readonly cache = new Map<string, Intl.DateTimeFormat>()
  constructor(readonly zone: string) {}

  private format(options: Intl.DateTimeFormatOptions) {
    const key = JSON.stringify(options)
    let found = this.cache.get(key)
    if (!found) this.cache.set(key, (found = new Intl.DateTimeFormat('en-GB', { timeZone: this.zone, ...options })))
    return found
  }

  /** 14:05 */
  clock = (at: string | number) =>
    this.format({ hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(new Date(at))
  /** 14:05:09 */
  seconds = (at: string | number) =>
    this.format({ hour: '2-digit', minute: '2-digit', second: '2-digit', hourCycle: 'h23' }).format(new Date(at))
  /** Tue 24 Nov */
  day = (at: string | number) =>
    this.format({ weekday: 'short', day: 'numeric', month: 'short' }).format(new Date(at)).replace(',', '')
  /** 24 Nov 2026 */
  date = (at: string | number) => this.format({ day: 'numeric', month: 'short', year: 'numeric' }).format(new Date(at))
  /** Tue 24 Nov 14:05 */
  moment = (at: string | number) => `${this.day(at)} ${this.clock(at)}`
  /** 2026-11-24, for addresses */
  iso = (at: string | number) =>
    this.format({ year: 'numeric', month: '2-digit', day: '2-digit' })
      .formatToParts(new Date(at))
      .reduce(
        (text, part) =>
          part.type === 'year' ? part.value + text : part.type === 'month' ? `${text}-${part.value}` : text,
        '',
      ) +
    '-' +
    this.format({ day: '2-digit' }).format(new Date(at))
}
