import { limitOfColumn } from './limitColumn.ts'
import type { DefinitionsDocument } from './document.ts'

/** Where the content of something kept names a property by its handle. */
const handleKeys = new Set(['property', 'by', 'field', 'group', 'of'])
const handleLists = new Set(['columns', 'cards', 'by', 'filled'])
const identity = /^(?:ty|st|pi|op|fi|ld|fa|lk|rb|la|co|tl)_[a-z0-9]{2,24}$/

/**
 * The identities that the content of a query, view, measure, dashboard or template names: choices as they are, fields by their
 * handles. Text that only happens to read like a handle is not counted, for it stands where no property does.
 */
export function namesIn(
  content: unknown,
  document: Pick<DefinitionsDocument, 'fields'>,
): Set<string> {
  const byHandle = new Map(Object.entries(document.fields).map(([id, field]) => [field.handle, id]))
  const found = new Set<string>()
  const name = (handle: string): void => {
    const id = byHandle.get(handle) ?? limitOfColumn(handle)
    if (id) found.add(id)
  }
  const walk = (value: unknown, key: string): void => {
    if (typeof value === 'string') {
      if (identity.test(value)) found.add(value)
      if (handleKeys.has(key)) name(value)
    } else if (Array.isArray(value)) {
      for (const entry of value) {
        if (typeof entry === 'string' && handleLists.has(key)) name(entry)
        walk(entry, '')
      }
    } else if (value !== null && typeof value === 'object') {
      for (const [inner, entry] of Object.entries(value)) {
        if (key === 'fields') name(inner)
        walk(entry, inner)
      }
    }
  }
  walk(content, '')
  return found
}
