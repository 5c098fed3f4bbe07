import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { namedIn } from './mentions.ts'

const nameable = {
  people: [
    { id: 'pe_ana', title: 'Ana Brandt' },
    { id: 'pe_anais', title: 'Ana Brandt-Moor' },
    { id: 'pe_zoe', title: 'Zoë Ärm' },
  ],
  codes: ['YARD', 'P2'],
}
const named = (text: string): string[] =>
  namedIn(text, nameable).map(({ id, from, to }) => `${id} ${text.slice(from, to)}`)

describe('what a text names', () => {
  it.each([
    ['@Ana Brandt, please look', ['pe_ana @Ana Brandt']],
    ['ask @Ana Brandt-Moor.', ['pe_anais @Ana Brandt-Moor']],
    ['(@Zoë Ärm)', ['pe_zoe @Zoë Ärm']],
    ['@Ana Brandtner is somebody else', []],
    ['@ana brandt', []],
    ['mail ana@Ana Brandt', []],
    ['see YARD/128 and P2/7.', ['YARD/128 YARD/128', 'P2/7 P2/7']],
    ['YARD/0, YARD/12a, yard/3, PIER/4', []],
    ['https://files.example/YARD/12 and ../YARD/12', []],
    ['YARD/1, then @Ana Brandt', ['YARD/1 YARD/1', 'pe_ana @Ana Brandt']],
    ['', []],
  ])('%s', (text, found) => {
    expect(named(text)).toEqual(found)
  })

  it('never overlaps, and is cut out of the text itself', () => {
    const piece = fc.constantFrom('@', 'Ana Brandt', '-Moor', 'YARD', '/', '12', ' ', 'é', '.')
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 20 }), (pieces) => {
        const text = pieces.join('')
        let end = 0
        for (const { kind, id, from, to } of namedIn(text, nameable)) {
          expect(from).toBeGreaterThanOrEqual(end)
          if (kind === 'item') expect(text.slice(from, to)).toBe(id)
          end = to
        }
      }),
    )
  })
})
