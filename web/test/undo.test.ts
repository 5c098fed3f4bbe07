import { describe, expect, it, vi } from 'vitest'
import { useNotes } from '../src/parts/notes.store.ts'
import { changeBack } from '../src/work/past.ts'
import { anItem } from './answers.ts'
import Notes from '../src/parts/Notes.vue'
import { show, vocabulary } from './page.ts'

const status = (id: string) => ({ id, title: id })
const properties = vocabulary.properties

describe('what takes one change of an item back', () => {
  const before = anItem({ status: status('st_open'), title: 'Ramp', fields: { cost: 5 } })
  const after = anItem({ status: status('st_hand'), title: 'Ramp', fields: { cost: 12 } })

  it('gives every value what it was before, and tells what was seen', () => {
    expect(changeBack(before, after, after, properties)).toEqual({
      given: { status: 'st_open', fields: { cost: 5 } },
      seen: { status: 'st_hand', fields: { cost: 12 } },
    })
  })

  it('leaves what others changed beside it', () => {
    const now = { ...after, title: 'Ramp hinge' }
    expect(changeBack(before, after, now, properties)?.given).not.toHaveProperty('title')
  })

  it.each([
    ['the same was changed again', { ...after, status: status('st_off') }],
    ['it was taken back already', before],
  ])('is none where %s', (_, now) => {
    expect(changeBack(before, after, now, properties)).toBeUndefined()
  })

  it('is none where nothing that one gives was changed', () => {
    expect(changeBack(before, { ...before, comments: 3 }, before, properties)).toBeUndefined()
  })

  it('puts back on hold with the reason', () => {
    const held = anItem({ on_hold: true, hold_reason: 'Parts' })
    const free = anItem({ on_hold: false, hold_reason: null })
    expect(changeBack(held, free, free, properties)?.given).toMatchObject({
      on_hold: true,
      hold_reason: 'Parts',
    })
  })
})

describe('Ctrl Z', () => {
  const press = (target: EventTarget = window): boolean =>
    target.dispatchEvent(
      new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true, cancelable: true }),
    )

  it('takes acts back, the latest first, each once, and what an undo tells is none', async () => {
    await show(Notes)
    const notes = useNotes()
    const undone: string[] = []
    const act = (name: string) => ({
      title: 'Undo',
      run: () => {
        undone.push(name)
        notes.show('well', `${name} is back.`, {
          title: 'Undo',
          run: () => void undone.push('again'),
        })
      },
    })
    notes.show('well', 'First.', act('first'))
    notes.show('well', 'Second.', act('second'))
    for (let times = 0; times < 3; times += 1) {
      press()
      await vi.waitFor(() => expect(undone).toHaveLength(Math.min(times + 1, 2)))
    }
    expect(undone).toEqual(['second', 'first'])
  })

  it('is left to what is being written', async () => {
    await show(Notes)
    const run = vi.fn()
    useNotes().show('well', 'Moved.', { title: 'Undo', run })
    const input = document.body.appendChild(document.createElement('input'))
    press(input)
    expect(run).not.toHaveBeenCalled()
    input.remove()
  })
})
