// Ends of certificates by the Temporal polyfill of its champions: one line "instant months zone" in, the end as an instant out.
import { Temporal } from '@js-temporal/polyfill'
import { createInterface } from 'node:readline'

for await (const line of createInterface({ input: process.stdin })) {
  const [instant, months, zone] = line.split(' ')
  const day = Temporal.Instant.from(instant).toZonedDateTimeISO(zone).toPlainDate()
  const after = day.add({ months: Number(months) }, { overflow: 'constrain' }).add({ days: 1 })
  console.log(after.toZonedDateTime({ timeZone: zone }).startOfDay().toInstant().toString())
}
