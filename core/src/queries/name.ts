const reserved = new Set([
  'and',
  'or',
  'not',
  'like',
  'between',
  'in',
  'is',
  'null',
  'true',
  'false',
  'div',
])

/** Whether a name must be quoted to be read as a property. */
export const isReserved = (name: string): boolean => reserved.has(name.toLowerCase())

/** A property's name as text: bare where the grammar allows, else between double quotes. */
export function quoteName(name: string): string {
  const bare =
    /^[\p{L}\p{Nl}_:][\p{L}\p{Nl}\p{Mn}\p{Mc}\p{Nd}_:.]*$/u.test(name) &&
    !name.endsWith('.') &&
    !isReserved(name)
  return bare ? name : `"${name}"`
}
