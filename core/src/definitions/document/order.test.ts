import { describe, expect, it } from 'vitest'
import { orderBetween, orderKeys } from './order.ts'
import vectors from './vectors/rank.json' with { type: 'json' }

interface Vector {
  readonly name: string
  readonly input: {
    readonly pattern?: string
    readonly n?: number
    readonly seed?: number
    readonly start?: string
    readonly moves?: readonly (readonly [number, number])[]
    readonly compare?: readonly [string, string]
    readonly keys?: readonly string[]
  }
  readonly expected: {
    readonly order?: readonly number[]
    readonly maxKeyLength?: number
    readonly maxKeyLengthWithoutRekey?: number
  }
}
const all = vectors as unknown as readonly Vector[]

interface Placed {
  readonly id: number
  readonly key: string
}

/** Puts an item at a place of a list, by the keys beside that place. */
function put(list: Placed[], at: number, id: number): void {
  const key = orderBetween(list[at - 1]?.key ?? null, list[at]?.key ?? null)
  list.splice(at, 0, { id, key })
}

/** Where each pattern puts the next item of a list. */
const places: Readonly<Record<string, (list: readonly Placed[], turn: number) => number>> = {
  append: (list) => list.length,
  prepend: () => 0,
  'both ends': (list, turn) => (turn % 2 === 0 ? list.length : 0),
  'after the first': (list) => Math.min(1, list.length),
  'before the last': (list) => (list.length < 2 ? list.length : list.length - 1),
  middle: (list) => Math.floor(list.length / 2),
  'between the two latest': (list, turn) => {
    if (turn < 2) return list.length
    if (turn === 2) return 1
    const newest = list.findIndex(({ id }) => id === turn)
    return turn % 2 === 1 ? newest + 1 : newest
  },
}

/** A generator of whole numbers, as the vectors say it. */
function random(seed: number): (length: number) => number {
  let s = seed
  return (length) => {
    s = (1_664_525 * s + 1_013_904_223) % 2 ** 32
    return s % (length + 1)
  }
}

function judged(list: readonly Placed[], expected: Vector['expected']): void {
  const sorted = list.toSorted((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : 0))
  expect(sorted.map(({ id }) => id)).toEqual(list.map(({ id }) => id))
  expect(new Set(list.map(({ key }) => key)).size).toBe(list.length)
  if (expected.order) expect(list.map(({ id }) => id)).toEqual(expected.order)
  const longest = Math.max(...list.map(({ key }) => key.length))
  const most = expected.maxKeyLength ?? expected.maxKeyLengthWithoutRekey!
  expect(longest).toBeLessThanOrEqual(most)
}

// The vectors were computed by a reference of their own (vectors/rank.json); lists of 100,000 are left out for their time.
describe('keys of an order by hand', () => {
  const patterns = all.filter(
    ({ input: { pattern, n } }) =>
      n !== undefined && n <= 10_000 && (pattern === 'random' || places[pattern!]),
  )
  it.each(patterns.map((pattern) => [pattern.name, pattern] as const))(
    '%s',
    (_, { input, expected }) => {
      const list: Placed[] = []
      const drawn = random(input.seed ?? 0)
      for (let turn = 0; turn < input.n!; turn += 1) {
        const place = places[input.pattern!]?.(list, turn) ?? drawn(list.length)
        put(list, place, turn + 1)
      }
      judged(list, expected)
    },
  )

  const moves = all.filter(({ input }) => input.moves)
  it.each(moves.map((move) => [move.name, move] as const))(
    '%s: only what is moved gets another key',
    (_, { input, expected }) => {
      const count = Number(/\d+/.exec(input.start!)![0])
      const list = orderKeys(count).map((key, index): Placed => ({ id: index + 1, key }))
      for (const [from, to] of input.moves!) {
        const [moved] = list.splice(from, 1)
        put(list, to, moved!.id)
      }
      judged(list, expected)
    },
  )

  it('are as many as asked for between two, and hardly longer', () => {
    const keys = orderKeys(1000, 'a5')
    expect(keys).toEqual(keys.toSorted((a, b) => (a < b ? -1 : 1)))
    expect(keys[0]! > 'a5').toBe(true)
    expect(Math.max(...keys.map(({ length }) => length))).toBeLessThanOrEqual(5)
  })

  it.each([
    ['a5', 'a5'],
    ['a6', 'a5'],
  ])('are refused between %s and %s', (before, after) => {
    expect(() => orderBetween(before, after)).toThrow()
  })

  it('sort by code point, as the database does', () => {
    const { input, expected } = all.find(({ name }) => name === 'order: localeCompare trap')!
    expect(input.keys!.toSorted((a, b) => (a < b ? -1 : 1))).toEqual(expected)
    for (const { input: two, expected: sign } of all.filter((vector) => vector.input.compare)) {
      const [a, b] = two.compare!
      expect(a < b ? -1 : a > b ? 1 : 0).toBe(sign)
    }
  })
})
