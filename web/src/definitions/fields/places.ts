import type { Edit, RulebookEntry } from '@bluestem/core/definitions'

/** Where a field stands for one type: on the item, on the form by which one is made, and whether it is required there. */
export interface Place {
  readonly type: string
  readonly title: string
  readonly item: boolean
  readonly make: boolean
  readonly required: boolean
}

type Entries = ReadonlyMap<string, RulebookEntry>
const forms = ['item', 'make'] as const

/** How a field stands now, type by type. */
export const placesOf = (
  entries: Entries,
  types: readonly { readonly id: string; readonly title: string }[],
  field: string,
): Place[] =>
  types.map(({ id, title }) => {
    const [item, make] = forms.map((form) => entries.get(`form:${id}:${form}:${field}`))
    return {
      type: id,
      title,
      item: item !== undefined,
      make: make !== undefined,
      required: item?.required === true || make?.required === true,
    }
  })

/**
 * What a rulebook says anew where a field is to stand elsewhere; what stays where it is keeps its section and its condition.
 *
 * @param last the place after the last field of a form, by the beginning of its keys
 * @param say how the rulebook says an entry, or leaves it out
 */
export function editsOfPlaces(
  entries: Entries,
  places: readonly Place[],
  field: string,
  last: (prefix: string) => string,
  say: (key: string, entry: RulebookEntry | null) => Edit,
): Edit[] {
  return places.flatMap((place) =>
    forms.flatMap((form) => {
      const key = `form:${place.type}:${form}:${field}`
      const there = entries.get(key)
      if (!place[form]) return there ? [say(key, null)] : []
      if (there && (there.required === true) === place.required) return []
      const { required: _, ...rest } = there ?? {
        order: last(`form:${place.type}:${form}:`),
        ...(form === 'item' ? { section: 'Particulars' } : {}),
      }
      return [say(key, place.required ? { ...rest, required: true } : rest)]
    }),
  )
}
