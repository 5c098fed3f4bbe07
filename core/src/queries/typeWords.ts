import type { Domain, Type } from './tree/checked.ts'

const words: Record<string, string> = { linkKind: 'link kind', item: 'item', person: 'person' }

export const domainWords = (domain: Domain): string =>
  domain.startsWith('option:') ? 'option' : (words[domain] ?? domain)

/** A kind of value in words: “a number”, “a status”, “labels”. */
export function describe(type: Type): string {
  switch (type.kind) {
    case 'number':
      return 'a number'
    case 'text':
      return 'text'
    case 'boolean':
      return 'yes or no'
    case 'date':
      return 'a day'
    case 'timestamp':
      return 'a moment'
    case 'interval':
      return 'an interval'
    case 'choice':
      return /^[aeiou]/.test(domainWords(type.domain))
        ? `an ${domainWords(type.domain)}`
        : `a ${domainWords(type.domain)}`
    case 'array':
      return `several of ${domainWords(type.domain)}`
  }
}

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
