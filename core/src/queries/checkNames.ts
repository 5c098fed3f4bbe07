import { firstIn, valueFor } from '../known/index.ts'
import { describe, domainWords } from './typeWords.ts'
import type { Literal, Value, Domain, Type } from './tree/checked.ts'
import { nearest } from './nearest.ts'
import { quoteText } from './print.ts'
import { type At, bounds, type QueryError } from './tree/tree.ts'
import type { Choice, QueryNames } from './tree/vocabulary.ts'

/** How choice literals are written: `name` as people write them, `identity` as saved queries keep them. */
export type Spelling = 'name' | 'identity'

/** Thrown inside the checker only, when as many errors were found as are told. */
export class EnoughErrors extends Error {}

/** Finds what the names of a query mean: properties, choices and labels. Collects what is wrong. */
export class NameChecker {
  readonly errors: QueryError[] = []
  protected readonly vocabulary: QueryNames
  protected readonly spelling: Spelling

  constructor(vocabulary: QueryNames, spelling: Spelling) {
    this.vocabulary = vocabulary
    this.spelling = spelling
  }

  protected wrong(
    at: At,
    message: string,
    more: Omit<QueryError, 'from' | 'to' | 'message'> = {},
  ): Value {
    this.errors.push({
      from: at.from,
      to: at.to,
      ...(at.pointer === undefined ? {} : { pointer: at.pointer }),
      message,
      ...more,
    })
    if (this.errors.length >= bounds.errors) throw new EnoughErrors()
    return { kind: 'literal', type: { kind: 'boolean' }, value: false, at }
  }

  /** What stands in an error's place is never compared, so that one mistake is told once. */
  protected tries<T>(part: () => T): { value: T; failed: boolean } {
    const before = this.errors.length
    const value = part()
    return { value, failed: this.errors.length > before }
  }

  protected property(name: string, at: At): Value {
    const ofParent = name.startsWith('parent.')
    const handle = ofParent ? name.slice('parent.'.length) : name
    const property = this.vocabulary.properties.get(handle)
    if (!property) return this.unknownName(name, handle, at)
    if (property.orderOnly)
      return this.wrong(at, `“${name}” only orders items; it is no part of a condition.`)
    if (property.leftOf !== undefined)
      return this.wrong(at, `“${name}” is a column; a condition asks for it by limit_left().`, {
        expected: `limit_left(${quoteText(this.vocabulary.choice('limit', property.leftOf)?.qualified ?? '')})`,
      })
    const type: Type = property.type
    return {
      kind: 'property',
      property: ofParent ? { ...property, nullable: property.type.kind !== 'array' } : property,
      ofParent,
      type,
      at,
    }
  }

  protected unknownName(name: string, handle: string, at: At): Value {
    const handles = [...this.vocabulary.properties.keys()]
    const near =
      nearest(handle, handles) ??
      handles.find(
        (text) =>
          valueFor(this.vocabulary.properties, text).title.toLowerCase() === handle.toLowerCase(),
      )
    const spelled =
      near === undefined ? undefined : name.startsWith('parent.') ? `parent.${near}` : near
    const quoted = this.looksLikeText(name) ? ' Text stands in single quotes.' : ''
    return this.wrong(
      at,
      `There is no property “${name}”.${spelled ? ` Did you mean ${spelled}?` : ''}${quoted}`,
      { found: name, expected: 'a property', ...(spelled ? { nearest: spelled } : {}) },
    )
  }

  protected looksLikeText(name: string): boolean {
    return (['status', 'type', 'project', 'priority', 'phase'] as const).some((domain) =>
      this.vocabulary
        .choices(domain)
        .some((choice) => choice.name.toLowerCase() === name.toLowerCase()),
    )
  }

  protected label(written: string, family: Value | undefined, at: At): Value {
    if (family?.kind !== 'literal') return this.choice(written, 'label', at)
    const labels = this.vocabulary
      .choices('label')
      .filter((choice) => choice.family === family.value)
    const found = labels.find(
      (label) => (this.spelling === 'identity' ? label.id : label.own) === written,
    )
    if (found)
      return {
        kind: 'literal',
        type: { kind: 'choice', domain: 'label' },
        value: found.id,
        own: true,
        at,
      }
    const near =
      labels.find((label) => label.own?.toLowerCase() === written.toLowerCase())?.own ??
      nearest(
        written,
        labels.map((label) => label.own ?? ''),
      )
    return this.wrong(
      at,
      `The family has no label “${written}”.${near ? ` Did you mean '${near}'?` : ''}`,
      { found: written, ...(near ? { nearest: `'${near}'` } : {}) },
    )
  }

  protected choice(written: string, domain: Domain, at: At): Value {
    const literal = (id: string): Literal => ({
      kind: 'literal',
      type: { kind: 'choice', domain },
      value: id,
      at,
    })
    if (domain === 'item') {
      if (/^[A-Z][A-Z0-9]{1,9}\/[1-9]\d{0,8}$/.test(written)) return literal(written)
      return this.wrong(at, `“${written}” is no ref; refs look like SITE/128.`, {
        found: written,
        expected: 'a ref',
      })
    }
    if (this.spelling === 'identity') {
      if (this.vocabulary.choice(domain, written)) return literal(written)
      return this.wrong(
        at,
        `This query names ${describe({ kind: 'choice', domain })} that is no longer defined.`,
        { found: written },
      )
    }
    return this.named(written, domain, at, literal)
  }

  protected named(
    written: string,
    domain: Domain,
    at: At,
    literal: (id: string) => Literal,
  ): Value {
    const all = this.vocabulary.choices(domain)
    const same = all.filter((choice) => choice.name === written)
    const qualified = all.find((choice) => choice.qualified === written)
    if (same.length === 1) return literal(firstIn(same).id)
    if (qualified) return literal(qualified.id)
    if (same.length > 1) {
      const spellings = same.map((choice) => `'${choice.qualified}'`).join(', ')
      return this.wrong(
        at,
        `“${written}” names ${same.length} things; write one of ${spellings}.`,
        { found: written, expected: spellings },
      )
    }
    const near =
      all.find((choice) => choice.name.toLowerCase() === written.toLowerCase())?.name ??
      byTitle(all, written) ??
      nearest(
        written,
        all.map((choice) => choice.name),
      )
    return this.wrong(
      at,
      `There is no ${domainWords(domain)} “${written}”.${near ? ` Did you mean '${near}'?` : all.length > 0 && all.length <= 8 ? ` There are: ${all.map((choice) => choice.name).join(', ')}.` : ''}`,
      {
        found: written,
        expected: `a ${domainWords(domain)}`,
        ...(near ? { nearest: `'${near.replaceAll("'", "''")}'` } : {}),
      },
    )
  }
}

const byTitle = (all: readonly Choice[], written: string): string | undefined =>
  all.find((choice) => choice.title.toLowerCase() === written.toLowerCase())?.name
