import { describe, expect, it } from 'vitest'
import { allowanceWords, workingTimeWords } from './words.ts'

describe('working time in words', () => {
  it.each([
    [0, '0 h'],
    [45, '45 min'],
    [60, '1 h'],
    [61, '1 h 1 min'],
    [90, '1 h 30 min'],
    [480, '8 h'],
  ])('%i minutes are %s', (minutes, words) => expect(workingTimeWords(minutes)).toBe(words))
})

describe('for which items an allowance holds', () => {
  it.each([
    ['a label', { label: 'la_1', minutes: 60 }, 'label Wet'],
    ['a priority', { priority: 'pr_1', minutes: 60 }, 'Now'],
    ['an urgency', { urgency: 2, minutes: 60 }, 'urgency 2'],
    ['all others', { minutes: 60 }, 'anything else'],
  ])('names %s', (_, allowance, words) => {
    const titles = { label: 'Wet', priority: 'Now' }
    expect(allowanceWords(allowance, (kind) => titles[kind])).toBe(words)
  })
})
