import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { undo } from './undo.ts'

const single = fc.oneof(
  fc.constant(null),
  fc.integer({ min: 0, max: 3 }),
  fc.constantFrom('a', 'b'),
  fc.constantFrom(new Date(1000), new Date(2000)),
)
const state = fc.record({
  first: single,
  second: single,
  list: fc.subarray([1, 2, 3]),
  follows: single,
})
const names = ['first', 'second', 'list', 'follows'] as const
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)

describe('taking a change back', () => {
  it('at once makes everything what it was', () => {
    fc.assert(
      fc.property(state, state, (before, written) => {
        const undone = undo(before, written, written)
        expect(undone.ok && { ...written, ...undone.values }).toEqual(before)
      }),
    )
  })

  it('after others changed something else keeps what they did', () => {
    fc.assert(
      fc.property(
        state,
        state,
        fc.constantFrom(...names),
        state,
        (before, written, name, { [name]: later }) => {
          fc.pre(same(before[name], written[name]))
          const undone = undo(before, written, { ...written, [name]: later })
          expect(undone.ok && { ...written, [name]: later, ...undone.values }).toEqual({
            ...before,
            [name]: later,
          })
        },
      ),
    )
  })

  it('after others changed the same is refused with what it was, and changes nothing else', () => {
    fc.assert(
      fc.property(
        state,
        state,
        fc.constantFrom(...names),
        state,
        (before, written, name, { [name]: later }) => {
          fc.pre(!same(before[name], written[name]) && !same(written[name], later))
          expect(undo(before, written, { ...written, [name]: later })).toEqual({
            ok: false,
            changedSince: [name],
          })
        },
      ),
    )
  })

  it('is not held up by what follows from other values', () => {
    const [before, written] = [
      { status: 1, done: null },
      { status: 2, done: new Date(1) },
    ]
    const present = { status: 2, done: new Date(9) }
    expect(undo(before, written, present, new Set(['done']))).toEqual({ ok: true, values: before })
  })

  it('takes lists with the same members for the same', () => {
    expect(undo({ list: [1] }, { list: [2, 3] }, { list: [3, 2] })).toEqual({
      ok: true,
      values: { list: [1] },
    })
  })
})
