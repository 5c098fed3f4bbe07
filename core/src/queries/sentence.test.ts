import { describe, expect, it } from 'vitest'
import { vocabulary } from '../../test/vocabulary.ts'
import { readQuery } from './read.ts'

function read(text: string): string[] {
  const outcome = readQuery({ lang: 'cql2-text', filter: text }, vocabulary)
  if (!outcome.ok) throw new Error(outcome.errors[0]!.message)
  return outcome.value.sentence.map((line) =>
    `${'  '.repeat(line.depth)}${line.lead} ${line.parts.map((part) => part.text).join('')}`.trimEnd(),
  )
}

describe('a query as a sentence', () => {
  it('names the first of many', () => {
    const refs = Array.from({ length: 30 }, (_, index) => `'YARD/${index + 1}'`)
    expect(read(`ref IN (${refs.join(', ')})`)[0]).toMatch(
      /^Items whose ref is “YARD\/1” or “YARD\/2” .* or “YARD\/24” or any of 6 more$/,
    )
  })

  it.each<[string, string[]]>([
    ['TRUE', ['Items of every kind']],
    [
      "type IN ('Job', 'Defect') AND project = 'YARD' AND phase NOT IN ('done', 'dropped') AND rung <= 2 AND in_family('deck')",
      [
        'Items of type Job or Defect',
        'in Fleet Yard',
        'whose phase is not done or dropped',
        'and rung is at most 2',
        'and carries any label of deck',
      ],
    ],
    ["status = 'Open'", ['Items whose status is Open']],
    ["project = 'YARD' AND type <> 'Job'", ['Items in Fleet Yard', 'whose type is not Job']],
    [
      "project = 'YARD' OR type = 'Job'",
      ['Items either of these:', '   in Fleet Yard', '  or of type Job'],
    ],
    [
      'due < today() OR due IS NULL',
      ['Items either of these:', '   due is before today', '  or due is empty'],
    ],
    [
      'T_INTERSECTS(due, week(-1)) AND T_INTERSECTS(created, month(-4))',
      ['Items whose due falls in last week', 'and created falls in 4 months ago'],
    ],
    [
      "A_OVERLAPS(labels, ('wet', 'deck: car deck'))",
      ['Items whose labels hold any of wet, car deck'],
    ],
    [
      "parent.status = 'Open' AND NOT (safe = TRUE)",
      ['Items whose the parent’s status is Open', 'and safe is not yes'],
    ],
    ["days_in(status, 'Open') > 3", ['Items whose days with status Open is more than 3']],
    [
      "CASEI(title) LIKE CASEI('%ramp%')",
      ['Items whose title in any case matches “%ramp%” in any case'],
    ],
  ])('%s', (text, lines) => {
    expect(read(text)).toEqual(lines)
  })
})
