/** The values the answer of an item holds in a field: each choice by its identity. */
export const heldIds = (value: unknown): unknown[] =>
  (Array.isArray(value) ? value : [value]).map((one: unknown) =>
    typeof one === 'object' && one !== null && 'id' in one ? one.id : one,
  )
