import { isDay } from '@bluestem/core/calendar'
import type { ItemAnswer, Property } from '@bluestem/core/queries'
import { asChoice } from '@bluestem/core/schema'
import ical from 'ical-generator'
import type { Labelled } from './labelled.ts'
import { valueOf } from './valueOf.ts'

/**
 * Answers as a calendar (RFC 5545): an event for each that has the date, a whole day where it is a day, a moment where it is one.
 *
 * @param property the date or moment that is shown
 */
export function calendarOf(
  items: readonly ItemAnswer[],
  property: Property,
  { title, addressOf, host, now }: Labelled,
): string {
  const calendar = ical({
    name: title,
    prodId: { company: 'Bluestem', product: 'Bluestem', language: 'EN' },
  })
  for (const item of items) {
    const value = valueOf(item, property)
    if (typeof value !== 'string') continue
    const status = item.status?.title ?? ''
    const assignee = asChoice(item['assignee'])
    calendar.createEvent({
      // The same item and date is the same event, however often the calendar is read.
      id: `${item.ref.replace('/', '-')}-${property.handle}@${host}`,
      stamp: now,
      start: new Date(value),
      allDay: isDay(value),
      summary: `${item.ref} ${item.title}`,
      description: { plain: [status, assignee?.title].filter(Boolean).join(', ') },
      url: addressOf(item.ref),
      lastModified: new Date(String(item['changed'])),
    })
  }
  return calendar.toString()
}
