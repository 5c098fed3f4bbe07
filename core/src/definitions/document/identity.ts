const letters = 'abcdefghjkmnpqrstuvwxyz23456789'

/** An identity from bytes of chance: a prefix that tells the kind, and as many letters as there are bytes (8 make a collision unthinkable). */
export const makeIdentity = (prefix: string, chance: Uint8Array): string =>
  `${prefix}_${[...chance].map((byte) => letters[byte % letters.length]).join('')}`
