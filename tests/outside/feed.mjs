// A calendar file as ical.js reads it (by Mozilla's calendar): its zones are those written in the file, none of the machine's.
import ICAL from 'ical.js'
import { text } from 'node:stream/consumers'

const calendar = new ICAL.Component(ICAL.parse(await text(process.stdin)))
for (const zone of calendar.getAllSubcomponents('vtimezone')) ICAL.TimezoneService.register(zone)
const instant = (time) => new Date(time.toUnixTime() * 1000).toISOString().replace('.000Z', 'Z')
const events = calendar.getAllSubcomponents('vevent').map((component) => {
  const event = new ICAL.Event(component)
  return {
    uid: event.uid,
    start: instant(event.startDate),
    end: instant(event.endDate),
    day: event.startDate.isDate ? event.startDate.toString() : null,
    lastDay: event.endDate.isDate ? event.endDate.toString() : null,
    zone: component.getFirstProperty('dtstart').getParameter('tzid') ?? 'UTC',
    title: event.summary,
    description: event.description ?? '',
    status: component.getFirstPropertyValue('status'),
    sequence: event.sequence,
    stamp: instant(component.getFirstPropertyValue('dtstamp')),
  }
})
console.log(JSON.stringify({ name: calendar.getFirstPropertyValue('name'), events }))
