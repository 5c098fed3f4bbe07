import {
  inOrder,
  makeIdentity,
  orderBetween,
  prefixes,
  type Section,
} from '@bluestem/core/definitions'

/** An identity for something new of a section, or for an option of a field. */
export const newId = (section: Section | 'option'): string =>
  makeIdentity(
    section === 'option' ? 'op' : prefixes[section],
    crypto.getRandomValues(new Uint8Array(8)),
  )

/** The key that stands after the last entry of a map. */
export const lastOrder = (map: Readonly<Record<string, { readonly order: string }>>): string =>
  orderBetween(inOrder(map).at(-1)?.order ?? null, null)
