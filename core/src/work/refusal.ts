/** One thing that is wrong with what was given: where, as a JSON pointer, and what would do. */
export interface WrongPart {
  readonly pointer: string
  readonly message: string
  readonly expected?: string
  readonly found?: string
}

/** Why a change is not made: what was given cannot be kept (`invalid`), or the definitions do not allow it (`refused`). */
export type Refusal =
  | { readonly kind: 'invalid'; readonly wrong: readonly WrongPart[] }
  | {
      readonly kind: 'refused'
      readonly message: string
      readonly wrong: readonly WrongPart[]
      /** what helps whoever was refused, such as where the item may go instead */
      readonly more?: Readonly<Record<string, unknown>>
    }

export const invalid = (wrong: readonly WrongPart[]): Refusal => ({ kind: 'invalid', wrong })

export const refused = (
  message: string,
  wrong: readonly WrongPart[] = [],
  more?: Readonly<Record<string, unknown>>,
): Refusal => ({ kind: 'refused', message, wrong, ...(more ? { more } : {}) })
