import { elementAt } from '../known/index.ts'
import type { Node, TemplateContent } from './content.ts'
import type { Day } from '../calendar/day.ts'
import type { WorkingTime } from '../calendar/working.ts'
import { dayOfRelative, isRelative } from './relativeDay.ts'

/** The blanks in a template's texts, each once, in the order in which they are read: `[[vessel]]`. */
export function blanksOf({ item, children }: TemplateContent): string[] {
  const texts = [item, ...children].flatMap((node) => [
    node.title,
    node.description ?? '',
    ...[...Object.values(node.values), ...Object.values(node.fields)].filter(
      (value) => typeof value === 'string',
    ),
  ])
  return [
    ...new Set(
      texts.flatMap((text) =>
        [...text.matchAll(/\[\[([^[\]]{1,60})\]\]/g)].map((match) => elementAt(match, 1).trim()),
      ),
    ),
  ]
}

export interface Filling {
  readonly today: Day
  readonly working: WorkingTime
  readonly blanks: Readonly<Record<string, string>>
}

/** One item a template makes: `key` names it for those below it. */
export interface Filled {
  readonly key: string
  readonly under: string | null
  readonly title: string
  readonly type: string
  readonly description?: string
  readonly values: Readonly<Record<string, unknown>>
  readonly fields: Readonly<Record<string, unknown>>
}

/** The items of a template with blanks filled and days worked out, each after the one it stands below. Unfilled blanks stay to be seen. */
export function fillTemplate(content: TemplateContent, filling: Filling): Filled[] {
  const node = (key: string, under: string | null, entry: Node): Filled => ({
    key,
    under,
    type: entry.type,
    title: filledText(entry.title, filling),
    ...(entry.description === undefined
      ? {}
      : { description: filledText(entry.description, filling) }),
    values: filledValues(entry.values, filling),
    fields: filledValues(entry.fields, filling),
  })
  return [
    node('item', null, content.item),
    ...content.children.map((child) => node(child.key, child.under ?? 'item', child)),
  ]
}

const filledText = (text: string, { blanks }: Filling): string =>
  text.replaceAll(/\[\[([^[\]]{1,60})\]\]/g, (whole, name: string) => blanks[name.trim()] ?? whole)

const filledValues = (
  values: Readonly<Record<string, unknown>>,
  filling: Filling,
): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(values).map(([handle, value]) => [
      handle,
      isRelative(value)
        ? dayOfRelative(value, filling)
        : typeof value === 'string'
          ? filledText(value, filling)
          : value,
    ]),
  )

/** What a template would change on an item that exists: what is empty only, or everything the template gives. */
export function fillInto(
  given: Readonly<Record<string, unknown>>,
  held: Readonly<Record<string, unknown>>,
  how: 'fill' | 'replace',
): Record<string, unknown> {
  const isEmpty = (value: unknown): boolean =>
    value === null || value === undefined || (Array.isArray(value) && value.length === 0)
  return Object.fromEntries(
    Object.entries(given).filter(
      ([handle, value]) =>
        JSON.stringify(held[handle] ?? null) !== JSON.stringify(value) &&
        (how === 'replace' || isEmpty(held[handle])),
    ),
  )
}
