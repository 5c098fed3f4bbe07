import { describe, expect, it } from 'vitest'
import { vocabulary } from '../../test/vocabulary.ts'
import { proposeColumns, proposeDayOrder } from './columns.ts'
import { detectDayOrder, readDayAs } from './day.ts'
import { type FileReading, readRow } from './row.ts'
import { detectSeparator } from './separator.ts'

describe('what parts the cells', () => {
  it.each([
    ['a,b,c\n1,2,3\n', ','],
    ['a;b;c\n1,5;2;3\n', ';'],
    ['a\tb\n1\t2\n', '\t'],
    ['a|b\n1|2\n', '|'],
    ['"a;b","c"\n"d;e;f","g"\n', ','],
    ['title;text\n"one, two, three, four";x\n', ';'],
    ['one\ntwo\n', ','],
    ['', ','],
  ])('of %j is %j', (text, separator) => {
    expect(detectSeparator(text)).toBe(separator)
  })
})

describe('a day', () => {
  it.each([
    ['2026-03-01', 'YMD', '2026-03-01'],
    ['1.3.2026', 'DMY', '2026-03-01'],
    ['3/1/2026', 'MDY', '2026-03-01'],
    ['29.2.2024', 'DMY', '2024-02-29'],
    ['29.2.2026', 'DMY', undefined],
    ['31/12/2026', 'MDY', undefined],
    ['soon', 'YMD', undefined],
  ] as const)('%s in the order %s is %s', (text, order, day) => {
    expect(readDayAs(text, order)).toBe(day)
  })

  it('tells its order by what fits all, day before month where both do', () => {
    expect(detectDayOrder(['1/2/2026', '13/2/2026'])).toBe('DMY')
    expect(detectDayOrder(['1/2/2026', '2/13/2026'])).toBe('MDY')
    expect(detectDayOrder(['1/2/2026'])).toBe('DMY')
    expect(detectDayOrder(['1/2/2026', 'soon'])).toBeUndefined()
    expect(detectDayOrder([])).toBeUndefined()
  })
})

describe('what columns are taken for', () => {
  const status = vocabulary.choices('status')
  const propose = (headings: string[], ...samples: string[][]) =>
    proposeColumns(headings, samples, vocabulary, {
      lk_waits: { title: 'waits for', inverse: 'holds up', order: 'a1', description: '' },
      lk_gone: {
        title: 'was part of',
        inverse: 'was whole of',
        order: 'a2',
        description: '',
        retired: true,
      },
    })

  it('by their headings, in whatever case, by title or handle; none twice', () => {
    expect(propose(['TITLE', 'assignee', 'Ref', 'Title'], [], [], [], [])).toEqual([
      'title',
      'assignee',
      'ref',
      null,
    ])
  })

  it('links by the words of their kinds, in either direction; none of a kind that is retired', () => {
    expect(propose(['Waits for', 'holds up', 'Was part of'], [], [], [])).toEqual([
      'link:lk_waits:out',
      'link:lk_waits:in',
      null,
    ])
  })

  it('by their values, where the headings say nothing', () => {
    const names = [status[0]!.name, status[1]!.name.toUpperCase(), 'something else']
    const titles = ['Winch runs hot', 'Pump is loud', 'Ramp does not close']
    const days = ['1.3.2026', '13.3.2026', 'soon']
    const columns = propose(['Stand', 'Was', 'Bis', 'x'], names, titles, days, ['1', '2', '3'])
    expect(columns).toEqual(['status', 'title', 'due', null])
    expect(proposeDayOrder(columns, [names, titles, days.slice(0, 2), []], vocabulary)).toBe('DMY')
  })
})

describe('a row', () => {
  const headings = ['Title', 'Estimate', 'Due', 'Labels', 'Ref']
  const reading: FileReading = {
    columns: ['title', 'estimate', 'due', 'labels', 'ref'],
    key: 'title',
    days: 'DMY',
  }
  const read = (...cells: string[]) => readRow(reading, headings, cells, 7, vocabulary)

  it('is read cell by cell; empty ones say nothing', () => {
    expect(read("'=sum", '1 250,5', '1.3.2026', 'wet; "a;b"', 'yard/7')).toEqual({
      line: 7,
      cells: ["'=sum", '1 250,5', '1.3.2026', 'wet; "a;b"', 'yard/7'],
      ref: 'YARD/7',
      key: '=sum',
      given: { title: '=sum', estimate: '1250.5', due: '2026-03-01', labels: ['wet', 'a;b'] },
      links: [],
      wrong: [],
    })
    expect(read('Winch', '', '', '').given).toEqual({ title: 'Winch' })
  })

  it('names several items to link with in one cell', () => {
    const linking: FileReading = { columns: ['title', 'link:lk_waits:in'], key: null, days: 'YMD' }
    const { given, links } = readRow(
      linking,
      ['What', 'After'],
      ['Winch', 'A-1; A-2'],
      2,
      vocabulary,
    )
    expect(given).toEqual({ title: 'Winch' })
    const link = { kind: 'lk_waits', direction: 'in', column: 'After' }
    expect(links).toEqual([
      { ...link, to: 'A-1' },
      { ...link, to: 'A-2' },
    ])
  })

  it('tells each cell that does not fit with its line, its column and what would do', () => {
    expect(read('Winch', 'many', 'soon', '', '', 'more').wrong).toMatchObject([
      { line: 7, column: null, found: '6 cells' },
      { line: 7, column: 'Estimate', found: 'many', expected: 'a number such as 12.5' },
      {
        line: 7,
        column: 'Due',
        found: 'soon',
        expected: 'a day such as 1.3.2026 (day, month, year)',
      },
    ])
  })
})
