import { fieldTitle, requirementInWords } from '../rulebook/requirement.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { kindOfEntry } from '../document/entryKinds.ts'
import type { RulebookEntry } from '../document/rules.ts'

/** What an entry is about, for a list: “Defect: In hand → Signed off”. */
export function keyInWords(document: DefinitionsDocument, key: string): string {
  const [, first = '', second = '', third = ''] = key.split(':')
  const type = document.types[first]?.title ?? first
  const status = (id: string): string => document.statuses[id]?.title ?? id
  switch (kindOfEntry(key)) {
    case 'type':
      return type
    case 'status':
      return `${type}: ${status(second)}`
    case 'move':
      return `${type}: ${status(second)} → ${status(third)}`
    case 'requirement':
      return `${type}: to enter ${status(second)}`
    case 'form':
      return `${type}: ${fieldTitle(document, third)}, ${second === 'make' ? 'when one is made' : 'on an item'}`
    case 'family':
      return document.families[first]?.title ?? first
    case 'link':
      return document.linkKinds[first]?.title ?? first
    case 'limit':
      return document.limits[first]?.title ?? first
    case 'ladder':
      return 'the ladder'
    case 'unit':
      return 'what is estimated in'
  }
}

const listed = (parts: readonly (string | false | 0 | undefined)[]): string =>
  parts.filter(Boolean).join(', ')

function formInWords(document: DefinitionsDocument, entry: RulebookEntry): string {
  const { required, section, shownWhen } = entry
  const condition = shownWhen && `shown when ${fieldTitle(document, shownWhen.field)} says so`
  return listed([required && 'required', section && `in ${section}`, condition]) || 'shown'
}

function familyInWords(document: DefinitionsDocument, entry: RulebookEntry): string {
  const types = (entry.requiredFor ?? []).map((id) => document.types[id]?.title ?? id)
  const required = types.length > 0 && `required for ${types.join(', ')}`
  return listed([entry.closed && 'closed', required]) || 'offered'
}

/** What a rulebook says of a key: “starts in Open”, “required, in Repair”, “Operations”. Nothing said: “nothing”. */
export function entryInWords(
  document: DefinitionsDocument,
  key: string,
  entry: RulebookEntry | undefined,
): string {
  const kind = kindOfEntry(key)
  if (!entry) return kind === 'move' ? 'not allowed' : 'nothing'
  switch (kind) {
    case 'type':
      return entry.start
        ? `starts in ${document.statuses[entry.start]?.title ?? entry.start}`
        : 'offered'
    case 'status':
      return 'in the flow'
    case 'move':
      return 'allowed'
    case 'requirement':
      return requirementInWords(document, entry.requires ?? {}) || 'nothing asked'
    case 'form':
      return formInWords(document, entry)
    case 'ladder':
      return document.ladders[entry.ladder ?? '']?.title ?? 'none'
    case 'unit':
      return entry.unit ?? 'hours'
    case 'family':
      return familyInWords(document, entry)
    case 'link':
      return 'offered'
    case 'limit':
      return 'kept'
  }
}
