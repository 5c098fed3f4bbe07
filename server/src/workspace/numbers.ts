import type { Domain } from '@bluestem/core/queries'

/** The small numbers that stand for identities in the columns of items. */
export interface Numbers {
  of(domain: Domain | 'field', identity: string): number | undefined
  identity(domain: Domain | 'field', number: number): string | undefined
}

export interface Identified {
  readonly number: number
  readonly identity: string
}

export function numbersOf(byDomain: ReadonlyMap<string, readonly Identified[]>): Numbers {
  const numbers = new Map(
    [...byDomain].map(([domain, list]) => [
      domain,
      new Map(list.map((one) => [one.identity, one.number])),
    ]),
  )
  const identities = new Map(
    [...byDomain].map(([domain, list]) => [
      domain,
      new Map(list.map((one) => [one.number, one.identity])),
    ]),
  )
  return {
    of: (domain, identity) => numbers.get(domain)?.get(identity),
    identity: (domain, number) => identities.get(domain)?.get(number),
  }
}
