/** Where a text names something: UTF-16 units, `from` included, `to` not. */
export interface Named {
  readonly kind: 'person' | 'item'
  /** the identity of the person, or the ref of the item */
  readonly id: string
  readonly from: number
  readonly to: number
}

/** Whom and what a text may name. */
export interface Nameable {
  readonly people: readonly { readonly id: string; readonly title: string }[]
  /** the codes of the projects whose items it may name */
  readonly codes: readonly string[]
}

const isOfWord = (letter: string | undefined): boolean =>
  letter !== undefined && /[\p{L}\p{N}_]/u.test(letter)

/** The person whose whole name stands at a place, the longest name where one begins with another. */
function personAt(
  text: string,
  at: number,
  people: Nameable['people'],
): Nameable['people'][number] | undefined {
  return people
    .filter(({ title }) => text.startsWith(title, at) && !isOfWord(text[at + title.length]))
    .toSorted((a, b) => b.title.length - a.title.length)[0]
}

/** The people that a text names by `@` and their whole name. An address of mail names nobody. */
function peopleIn(text: string, people: Nameable['people']): Named[] {
  return [...text.matchAll(/@/g)].flatMap(({ index }): Named[] => {
    if (isOfWord(text[index - 1])) return []
    const person = personAt(text, index + 1, people)
    if (!person) return []
    return [{ kind: 'person', id: person.id, from: index, to: index + 1 + person.title.length }]
  })
}

/** The items that a text names by their refs, such as YARD/128. A part of an address names none. */
function itemsIn(text: string, codes: readonly string[]): Named[] {
  return [...text.matchAll(/(?<![\w/.:#-])([A-Z][A-Z0-9]{0,9})\/([1-9]\d{0,8})(?![\w/])/g)].flatMap(
    ({ 0: ref, 1: code = '', index }): Named[] =>
      codes.includes(code) ? [{ kind: 'item', id: ref, from: index, to: index + ref.length }] : [],
  )
}

/** Everything that a text names, in its order. */
export const namedIn = (text: string, { people, codes }: Nameable): readonly Named[] =>
  [...peopleIn(text, people), ...itemsIn(text, codes)].toSorted((a, b) => a.from - b.from)
