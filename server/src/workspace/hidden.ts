/** What stands for an identity that whoever asks may not see; it keeps its kind, so that what reads it still fits. */
const hiddenIdentity = (identity: string): string => `${identity.slice(0, 2)}_hidden`

export const isHiddenIdentity = (identity: string): boolean => /^[a-z]{2}_hidden$/.test(identity)

/** A value without the identities that whoever asks may not see: as values they are masked, and what is told under one as a name is left out. */
export function hideIdentities<T>(value: T, hidden: ReadonlySet<string>): T {
  // Masking changes identities and titles, never a shape.
  return hidden.size === 0 ? value : (masked(value, hidden) as T)
}

function masked(value: unknown, hidden: ReadonlySet<string>): unknown {
  if (typeof value === 'string') return hidden.has(value) ? hiddenIdentity(value) : value
  if (Array.isArray(value)) return value.map((entry) => masked(entry, hidden))
  if (value === null || typeof value !== 'object' || value instanceof Date) return value
  return Object.fromEntries(
    Object.entries(value)
      .filter(([name]) => !hidden.has(name))
      .map(([name, entry]) => [name, masked(entry, hidden)]),
  )
}
