/** The values the answer of an item holds in a field: each choice by its identity. */
export const heldIds = (value: unknown): unknown[] =>
  (Array.isArray(value) ? value : [value]).map((entry: unknown) =>
    typeof entry === 'object' && entry !== null && 'id' in entry ? entry.id : entry,
  )
