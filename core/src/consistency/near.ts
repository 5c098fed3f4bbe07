import { elementAt } from '../known/index.ts'
import { accenti, casei } from '../queries/values/fold.ts'
import { editDistance } from '../queries/nearest.ts'

export type Nearness = 'same' | 'maybe' | 'different'

/** A word without its plural ending. Crude on purpose: both words go through it, so it need only be the same for both. */
function singular(word: string): string {
  if (word.length < 4 || word.endsWith('ss') || word.endsWith('us') || word.endsWith('is'))
    return word
  if (word.endsWith('ies') && word.length > 4) return `${word.slice(0, -3)}y`
  if (/(?:ch|sh|x|ss)es$/.test(word)) return word.slice(0, -2)
  return word.endsWith('s') ? word.slice(0, -1) : word
}

/** The words of a title without case, accents, width and the marks people join words with. Marks that carry meaning stay. */
function wordsOf(title: string): string[] {
  const plain = accenti(casei(title.normalize('NFKC')).normalize('NFD'))
    .replaceAll('&', ' and ')
    .replace(/["'“”‘’«»]/g, '')
  return plain
    .replace(/(?<!\d)\.|\.(?!\d)/g, ' ')
    .replace(/(?<=^|\s)#/g, '')
    .split(/[\s_,;:–—-]+/)
    .filter(Boolean)
}

/** A title as it is compared: its words as they are written, and without their plural endings. */
interface ReadTitle {
  readonly title: string
  readonly written: readonly string[]
  readonly words: readonly string[]
}

const reads = new Map<string, ReadTitle>()

/** Titles are read once: lists of thousands are compared again and again while one of them is written. */
function read(title: string): ReadTitle {
  let known = reads.get(title)
  if (!known) {
    if (reads.size >= 20_000) reads.clear()
    const written = wordsOf(title)
    known = { title, written, words: written.map(singular) }
    reads.set(title, known)
  }
  return known
}

/**
 * Whether two titles say the same: `same` when they differ only as people vary the writing of one word (case, plural, joining, order
 * of words, an evident slip of the hand), `maybe` when one goes on where the other ends, else `different`. Numbers always count.
 */
export const nearness = (a: string, b: string): Nearness => nearnessOf(read(a), read(b))

function nearnessOf(a: ReadTitle, b: ReadTitle): Nearness {
  const [first, second] = [a.words, b.words]
  if (first.length === 0 || second.length === 0)
    return a.title.trim() === b.title.trim() ? 'same' : 'different'
  if (
    first.join('') === second.join('') ||
    first.toSorted().join(' ') === second.toSorted().join(' ')
  )
    return 'same'
  if (numbers(first) !== numbers(second)) return 'different'
  if (
    first.length === second.length &&
    first.every(
      (word, index) =>
        word === second[index] || isSlip(elementAt(a.written, index), elementAt(b.written, index)),
    )
  )
    return 'same'
  return goesOn(first, second) || goesOn(second, first) ? 'maybe' : 'different'
}

const numbers = (words: readonly string[]): string =>
  words.flatMap((word) => word.match(/\d+(?:\.\d+)?/g) ?? []).join(' ')

/** One slip of the hand in a long word: two letters swapped, one doubled, or one left out of a very long one. Another first letter is another word. */
function isSlip(a: string, b: string): boolean {
  const [short, long] = a.length <= b.length ? [a, b] : [b, a]
  if (long.length < 8 || short[0] !== long[0] || editDistance(short, long) !== 1) return false
  if (short.length === long.length) return [...short].sort().join('') === [...long].sort().join('')
  const at = [...long].findIndex((letter, index) => letter !== short[index])
  return long[at] === long[at - 1] || long.length >= 10
}

/** Whether the words of one title all stand in another, or its one word begins the other's. */
function goesOn(short: readonly string[], long: readonly string[]): boolean {
  if (short.every((word) => long.includes(word))) return short.some((word) => word.length > 2)
  return (
    short.length === long.length &&
    short.every(
      (word, index) =>
        word === long[index] || (word.length >= 3 && elementAt(long, index).startsWith(word)),
    )
  )
}

/** What titles that say the same have in common, one of these at least: their joined words, their sorted words, or their numbers and how each word begins. */
const commonOf = ({ title, words }: ReadTitle): string[] =>
  words.length === 0
    ? [`= ${title.trim()}`]
    : [
        `+ ${words.join('')}`,
        `~ ${words.toSorted().join(' ')}`,
        `^ ${words.map((word) => word[0]).join(' ')} ${numbers(words)}`,
      ]

/** Groups of titles that say the same, each with two members at least, largest first. Only titles with something in common are compared, so thousands are quick. */
export function nearGroups<T extends { readonly title: string }>(all: readonly T[]): T[][] {
  const groups: { readonly entry: T; readonly read: ReadTitle }[][] = []
  const withCommon = new Map<string, Set<number>>()
  for (const entry of all) {
    const member = { entry, read: read(entry.title) }
    const common = commonOf(member.read)
    const near = [...new Set(common.flatMap((key) => [...(withCommon.get(key) ?? [])]))].sort(
      (a, b) => a - b,
    )
    const found = near.find((index) =>
      elementAt(groups, index).some((other) => nearnessOf(other.read, member.read) === 'same'),
    )
    const index = found ?? groups.push([]) - 1
    elementAt(groups, index).push(member)
    for (const key of common) withCommon.set(key, (withCommon.get(key) ?? new Set()).add(index))
  }
  return groups
    .filter((group) => group.length > 1)
    .map((group) => group.map(({ entry: member }) => member))
    .sort((a, b) => b.length - a.length)
}
