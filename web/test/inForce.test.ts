import { describe, expect, it } from 'vitest'
import { useDefinitions } from '../src/definitions/store/definitions.store.ts'
import DraftStrip from '../src/definitions/draft/DraftStrip.vue'
import { definitionsAnswer } from './answers.ts'
import { document_, open, shown, usage } from './defined.ts'

describe('what is in force, read again', () => {
  const answer = (number: number, document = document_) => {
    const given = definitionsAnswer({ document: structuredClone(document) })
    return { 'GET /definitions': { body: { ...given, edition: { ...given.edition, number } } } }
  }

  it('is the same document in the same edition, so that nothing is worked out of it again', async () => {
    await shown(DraftStrip, {}, answer(4))
    const definitions = useDefinitions()
    const before = definitions.document
    await open(answer(4))
    expect(definitions.document).toBe(before)
    await open(answer(5))
    expect(definitions.document).not.toBe(before)
    expect(definitions.edition?.number).toBe(5)
  })

  it('is another document where one may see other projects of it', async () => {
    await shown(DraftStrip, {}, answer(4))
    const definitions = useDefinitions()
    const projects = { ...document_.projects, pr_crew: 'rb_everyone' }
    await open(answer(4, { ...document_, projects }))
    expect(definitions.document.projects).toHaveProperty('pr_crew')
  })

  it('is counted anew, and shown anew only where the counts differ', async () => {
    await shown(DraftStrip, {}, answer(4))
    const definitions = useDefinitions()
    const before = definitions.usage
    await definitions.countUse()
    expect(definitions.usage).toBe(before)
    await open({ 'GET /definitions/usage': { body: { ...usage, items: { ty_defect: 7 } } } })
    expect(definitions.items('ty_defect')).toBe(7)
  })
})
