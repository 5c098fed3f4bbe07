import { describe, expect, it } from 'vitest'
import { all, anyOf, either, equals, hasBeenIn, within } from './filters.ts'

const isOpen = equals('status', 'st_open')
const isShut = equals('status', 'st_shut')
const isJob = equals('type', 'ty_job')
const isLarge = { op: '>', args: [{ property: 'estimate' }, 5] }

describe('one filter for what meets any of several', () => {
  it.each([
    ['a single one stays as it is', [isOpen], isOpen],
    [
      'values of one property stand in one list',
      [isOpen, isShut],
      within('status', ['st_open', 'st_shut']),
    ],
    ['the same value stands once', [isOpen, isOpen], isOpen],
    ['properties stay apart', [isOpen, isJob], { op: 'or', args: [isOpen, isJob] }],
    [
      'other comparisons stay as they are, each once',
      [isLarge, isLarge, isOpen],
      { op: 'or', args: [isOpen, isLarge] },
    ],
    [
      'a list of alternatives is taken apart',
      [{ op: 'or', args: [isLarge, isJob] }, isLarge],
      { op: 'or', args: [isLarge, isJob] },
    ],
    [
      'a comparison with a number is no list',
      [equals('title', 'x'), { op: '=', args: [{ property: 'estimate' }, 5] }],
      { op: 'or', args: [equals('title', 'x'), { op: '=', args: [{ property: 'estimate' }, 5] }] },
    ],
    [
      'a comparison with a function is no list',
      [{ op: '=', args: [{ op: 'days_in', args: [] }, 'x'] }, isOpen],
      { op: 'or', args: [isOpen, { op: '=', args: [{ op: 'days_in', args: [] }, 'x'] }] },
    ],
  ])('%s', (_, filters, joined) => expect(anyOf(filters)).toEqual(joined))
})

describe('filters put together', () => {
  it.each([
    ['all of one is that one', all(isOpen), isOpen],
    ['all of two', all(isOpen, isJob), { op: 'and', args: [isOpen, isJob] }],
    ['either of one is that one', either([isOpen]), isOpen],
    ['either of two', either([isOpen, isJob]), { op: 'or', args: [isOpen, isJob] }],
    ['within one value', within('type', ['ty_job']), isJob],
    [
      'having been in a status',
      hasBeenIn(['st_open']),
      [{ op: '>', args: [{ op: 'days_in', args: [{ property: 'status' }, 'st_open'] }, 0] }],
    ],
  ])('%s', (_, made, filter) => expect(made).toEqual(filter))
})
