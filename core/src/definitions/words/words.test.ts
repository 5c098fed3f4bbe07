import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../../test/document.ts'
import { replaceAt, valueAt } from '../draft/change.ts'
import { inWords } from './words.ts'

const [field, { title: fieldTitle, options }] = Object.entries(soundDocument.fields).find(
  ([, entry]) => entry.options,
)!
const [option, { title: optionTitle }] = Object.entries(options!)[0]!
const optionPath = ['fields', field, 'options', option]

/** A change of a draft in words: drafts change whatever lies at a path, however deep. */
function told(path: readonly string[], after: unknown): string {
  const next = replaceAt(soundDocument, path, after)
  return inWords(soundDocument, next, { path, before: valueAt(soundDocument, path), after })
}

describe('a change of an option in words', () => {
  it.each<[part: string, after: unknown, words: string]>([
    ['title', 'Slipway', `renames option “${optionTitle}” of field “${fieldTitle}” to “Slipway”`],
    ['retired', true, `retires option “${optionTitle}” of field “${fieldTitle}”`],
    ['colour', 7, `colours option “${optionTitle}” of field “${fieldTitle}”`],
    ['description', 'By the sea.', `changes option “${optionTitle}” of field “${fieldTitle}”`],
  ])('is told by the option, where its %s changes', (part, after, words) => {
    expect(told([...optionPath, part], after)).toBe(words)
  })

  it('is told where the whole of it comes or goes', () => {
    expect(told(optionPath, undefined)).toBe(
      `removes option “${optionTitle}” from field “${fieldTitle}”`,
    )
    expect(told(['fields', field, 'options', 'op_new'], { title: 'Dry dock', order: 'zz' })).toBe(
      `adds option “Dry dock” to field “${fieldTitle}”`,
    )
  })
})
