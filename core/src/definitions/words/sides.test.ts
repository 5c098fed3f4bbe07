import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../../test/document.ts'
import { replaceAt } from '../draft/change.ts'
import { diff } from '../draft/diff.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { sidesOf, type Sides } from './sides.ts'

const [status] = Object.keys(soundDocument.statuses) as [string]
const [ladder] = Object.keys(soundDocument.ladders) as [string]
const [field] = Object.entries(soundDocument.fields).find(([, entry]) => entry.options)!
const titleOf = (of: Readonly<Record<string, { readonly title: string }>>, id: string): string =>
  of[id]!.title
const told = (edits: readonly (readonly [path: readonly string[], after: unknown])[]): string[] => {
  const after = edits.reduce<DefinitionsDocument>(
    (document, [path, value]) => replaceAt(document, path, value),
    soundDocument,
  )
  return diff(soundDocument, after).map((difference) =>
    inOneLine(sidesOf(soundDocument, after, difference, () => 'Fleet Yard')),
  )
}
const inOneLine = ({ kind, title, part, before, after }: Sides): string =>
  `${[kind, title, part].filter(Boolean).join(' / ')}: ${before ?? '-'} > ${after ?? '-'}`
const aStatus = titleOf(soundDocument.statuses, status)

describe('a change by its two sides', () => {
  it('tells a word, a text and a use as they were and as they will be', () => {
    expect(told([[['statuses', status, 'title'], 'Known']])).toEqual([
      `status / Known / title: ${aStatus} > Known`,
    ])
    expect(told([[['statuses', status, 'description'], 'Seen by somebody.']])[0]).toContain(
      '> Seen by somebody.',
    )
    expect(told([[['statuses', status, 'retired'], true]])).toEqual([
      `status / ${aStatus} / use: offered > retired`,
    ])
  })

  it('tells the rungs of a ladder in their order on both sides', () => {
    const rungs = Object.keys(soundDocument.ladders[ladder]!.rungs)
    const [line] = told([[['ladders', ladder, 'rungs', rungs[0]!, 'order'], 'zz']])
    const title = titleOf(soundDocument.priorities, rungs[0]!)
    expect(line).toMatch(new RegExp(`rungs: 1 ${title}.* > .*${rungs.length} ${title}$`))
  })

  it('tells an option, and where an entry stands among its kind', () => {
    const [option] = Object.keys(soundDocument.fields[field]!.options!)
    const was = soundDocument.fields[field]!.options![option!]!.title
    expect(told([[['fields', field, 'options', option!, 'retired'], true]])).toEqual([
      `field / ${titleOf(soundDocument.fields, field)} / options: ${was} > ${was}, retired`,
    ])
    const count = Object.keys(soundDocument.statuses).length
    expect(told([[['statuses', status, 'order'], 'zz']])[0]).toMatch(
      new RegExp(`place: \\d+ of ${count} > ${count} of ${count}$`),
    )
  })

  it('tells an entry of a rulebook by its key, and a new entry with what is in it', () => {
    const [rulebook] = Object.keys(soundDocument.rulebooks) as [string]
    const [key] = Object.entries(soundDocument.rulebooks[rulebook]!.entries).find(([text]) =>
      text.startsWith('move:'),
    )!
    expect(told([[['rulebooks', rulebook, 'entries', key], undefined]])[0]).toMatch(
      /^move \/ .*→.*: allowed > not allowed$/,
    )
    const [used] = Object.keys(soundDocument.rulebooks[rulebook]!.entries).filter((text) =>
      text.startsWith('status:'),
    )
    expect(told([[['rulebooks', rulebook, 'entries', used!], undefined]])[0]).toMatch(
      /^status of a flow \/ .*: in the flow > left out$/,
    )
    const copy = { ...soundDocument.rulebooks[rulebook]!, title: 'Shore work' }
    expect(told([[['rulebooks', 'rb_shore'], copy]])[0]).toMatch(
      /^rulebook \/ Shore work: - > \d+ types?, \d+ status of flows?/,
    )
    const added = { order: 'zz', title: 'Idle', phase: 'idle', queue: false, description: '' }
    expect(told([[['statuses', 'st_new'], added]])).toEqual(['status / Idle: - > idle'])
  })

  it('tells which rulebook a project follows', () => {
    const [rulebook] = Object.keys(soundDocument.rulebooks) as [string]
    expect(told([[['projects', 'pr_new'], rulebook]])).toEqual([
      `project / Fleet Yard / rulebook: - > ${titleOf(soundDocument.rulebooks, rulebook)}`,
    ])
  })
})
