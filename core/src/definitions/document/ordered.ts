export interface Ordered {
  readonly order: string
}

/** The entries of a map in their defined order: by key, then identity, by code point. */
export function inOrder<T extends Ordered>(
  map: Readonly<Record<string, T>>,
): (T & { readonly id: string })[] {
  return Object.entries(map)
    .map(([id, entry]) => ({ ...entry, id }))
    .sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1))
}
