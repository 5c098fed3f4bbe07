import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../../test/document.ts'
import { replaceAt, same } from '../draft/change.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import type { Rulebook, RulebookEntry } from '../document/rules.ts'
import { entryInWords, keyInWords } from './entry.ts'
import { replacedIn } from '../document/replaced.ts'
import { compare, entriesOf } from '../rulebook/resolve.ts'
import { entriesInUse, giveBack, ownKeys, rulebookLike, setEntry, takeOver } from '../draft/say.ts'

const own = (
  entries: Rulebook['entries'],
  document: DefinitionsDocument = soundDocument,
): DefinitionsDocument =>
  replaceAt(document, ['rulebooks', 'rb_own'], {
    order: 'z',
    title: 'Own',
    description: '',
    extends: 'rb_all',
    entries,
  })
const done = (
  document: DefinitionsDocument,
  edits: readonly { path: readonly string[]; after?: unknown }[],
): DefinitionsDocument => edits.reduce((so, edit) => replaceAt(so, edit.path, edit.after), document)

describe('an entry in words', () => {
  it.each<[string, RulebookEntry | undefined, string, string]>([
    ['type:ty_job', { start: 'st_open' }, 'Job', 'starts in Open'],
    ['status:ty_job:st_hand', {}, 'Job: In hand', 'in the flow'],
    ['move:ty_job:st_open:st_hand', undefined, 'Job: Open → In hand', 'not allowed'],
    [
      'requirement:ty_job:st_hand',
      { requires: { comment: true } },
      'Job: to enter In hand',
      'a comment',
    ],
    [
      'form:ty_job:item:fi_cost',
      { required: true, section: 'Money' },
      'Job: Cost, on an item',
      'required, in Money',
    ],
    ['form:ty_job:make:priority', undefined, 'Job: Priority, when one is made', 'nothing'],
    ['ladder', { ladder: 'ld_ops' }, 'the ladder', soundDocument.ladders['ld_ops']!.title],
    ['unit', { unit: 'points' }, 'what is estimated in', 'points'],
  ])('%s', (key, entry, about, says) => {
    expect([keyInWords(soundDocument, key), entryInWords(soundDocument, key, entry)]).toEqual([
      about,
      says,
    ])
  })
})

describe('one identity in the place of another', () => {
  it.each<[string, unknown, unknown]>([
    [
      'in a condition',
      { op: '=', args: [{ property: 'labels' }, 'la_a'] },
      { op: '=', args: [{ property: 'labels' }, 'la_b'] },
    ],
    [
      'in a list that names both: once, in its first place',
      { op: 'a_overlaps', args: [{ property: 'labels' }, ['la_c', 'la_a', 'la_b']] },
      { op: 'a_overlaps', args: [{ property: 'labels' }, ['la_c', 'la_b']] },
    ],
    [
      'not as a part of a word',
      { title: 'la_a and more', note: null },
      { title: 'la_a and more', note: null },
    ],
    ['not as a key', { la_a: 1 }, { la_a: 1 }],
  ])('%s', (_, before, after) => {
    expect(replacedIn(before, 'la_a', 'la_b')).toEqual(after)
  })
})

describe('saying something of a key', () => {
  const keys = [...entriesOf(soundDocument, 'rb_all').keys(), 'move:ty_job:st_open:st_off']
  const entry = fc.option(fc.constantFrom<RulebookEntry>({}, { order: 'q' }, { required: true }), {
    nil: null,
  })

  it('holds afterwards, and says no more than is needed', () => {
    fc.assert(
      fc.property(fc.constantFrom(...keys), entry, (key, wanted) => {
        const document = done(own({}), [setEntry(own({}), 'rb_own', key, wanted)])
        const [held] = [document.rulebooks['rb_own']!.entries[key]]
        const parent = entriesOf(document, 'rb_all').get(key)
        expect(held).toEqual(
          wanted === null
            ? parent
              ? 'out'
              : undefined
            : same(parent, wanted)
              ? undefined
              : wanted,
        )
      }),
    )
  })

  it('given back, is the parent’s again', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.constantFrom(...keys)), (said) => {
        const document = own(Object.fromEntries(said.map((key) => [key, 'out'])))
        const back = done(document, giveBack(document, 'rb_own', ownKeys(document, 'rb_own')))
        expect(compare(back, 'rb_own', 'rb_all', same)).toEqual([])
      }),
    )
  })

  it('takes over what another rulebook has, and leaves out what it has not', () => {
    const document = own({ 'move:ty_job:st_open:st_off': {}, 'form:ty_job:item:fi_cost': 'out' })
    const both = replaceAt(document, ['rulebooks', 'rb_new'], {
      order: 'zz',
      title: 'New',
      description: '',
      extends: 'rb_all',
      entries: {},
    })
    const taken = done(
      both,
      takeOver(
        both,
        'rb_own',
        'rb_new',
        compare(both, 'rb_own', 'rb_new', same).map((compared) => compared.key),
      ),
    )
    expect(compare(taken, 'rb_own', 'rb_new', same)).toEqual([])
  })

  it('begins as another rulebook is, copied or extended', () => {
    expect([
      rulebookLike(soundDocument, 'rb_all', 'copy'),
      rulebookLike(soundDocument, 'rb_all', 'extend'),
    ]).toEqual([soundDocument.rulebooks['rb_all']!.entries, {}])
  })

  it('keeps of what a project follows the types it uses', () => {
    const document = replaceAt(soundDocument, ['projects'], { pr_yard: 'rb_all' })
    const kept = entriesInUse(document, 'pr_yard', [])
    expect(
      Object.keys(kept).filter((key) => /^(?:type|status|move|form|requirement):/.test(key)),
    ).toEqual([])
    expect(kept['ladder']).toEqual(entriesOf(document, 'rb_all').get('ladder'))
    expect(entriesInUse(document, 'pr_yard', Object.keys(soundDocument.types))).toEqual(
      Object.fromEntries(entriesOf(document, 'rb_all')),
    )
  })
})
