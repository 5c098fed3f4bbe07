import { fieldKind } from './fieldKinds.ts'
import { addDays, type Day, instantText, startOfDay } from '../../calendar/day.ts'
import type { Field } from './entries.ts'

const relative = /^today(?:([+-])(\d{1,4}))?$/

/** Whether a default is a day told from the day of making: `today`, `today+14`, `today-1`. */
export const isRelativeDay = (value: unknown): value is string =>
  typeof value === 'string' && relative.test(value)

/**
 * What a field holds in a new item when nothing is given: its default with what is relative worked out.
 *
 * @returns the value as it would be given from outside; undefined where the field has no default
 */
export function defaultValue(
  field: Pick<Field, 'kind' | 'default'>,
  { today, zone, me }: { readonly today: Day; readonly zone: string; readonly me: string },
): unknown {
  const standard = field.default
  const { values, several } = fieldKind(field.kind)
  if (standard === undefined) return undefined
  if (isRelativeDay(standard) && (values === 'date' || values === 'timestamp'))
    return dayFrom(standard, today, values === 'timestamp' ? zone : null)
  if (standard === 'me' && values === 'person') return several ? [me] : me
  return standard
}

/** The day a relative text names, or the first instant of it where a zone is given. */
export function dayFrom(text: string, today: Day, zone: string | null = null): string {
  const [, sign, count = '0'] = relative.exec(text) ?? []
  const day = addDays(today, sign === '-' ? -Number(count) : Number(count))
  return zone === null ? day : instantText(startOfDay(day, zone))
}
