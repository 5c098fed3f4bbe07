import type { Domain } from '@bluestem/core/queries'

/** The small numbers that stand for identities in the columns of items. */
export interface Numbers {
  of(domain: Domain | 'field', identity: string): number | undefined
  identity(domain: Domain | 'field', number: number): string | undefined
  /** the number of something that is there. @throws Error where nothing has this identity */
  numberOf(domain: Domain | 'field', identity: string): number
  /** the identity of something that is there. @throws Error where nothing has this number */
  identityOf(domain: Domain | 'field', number: number): string
}

export interface Identified {
  readonly number: number
  readonly identity: string
}

export function numbersOf(byDomain: ReadonlyMap<string, readonly Identified[]>): Numbers {
  const numbers = new Map(
    [...byDomain].map(([domain, list]) => [
      domain,
      new Map(list.map((identified) => [identified.identity, identified.number])),
    ]),
  )
  const identities = new Map(
    [...byDomain].map(([domain, list]) => [
      domain,
      new Map(list.map((identified) => [identified.number, identified.identity])),
    ]),
  )
  const of: Numbers['of'] = (domain, identity) => numbers.get(domain)?.get(identity)
  const identity: Numbers['identity'] = (domain, number) => identities.get(domain)?.get(number)
  return {
    of,
    identity,
    numberOf: (domain, id) => there(of(domain, id), domain, id),
    identityOf: (domain, number) => there(identity(domain, number), domain, number),
  }
}

/** Rows hold only numbers that were given, and documents only identities: what is missing is a defect. */
function there<Found>(found: Found | undefined, domain: string, name: string | number): Found {
  if (found === undefined) throw new Error(`there is no ${domain} ${name}`)
  return found
}
