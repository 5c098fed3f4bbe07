/** What a caller knows to be there is not: a defect of the program, never of what it was given. */
export class MissingError extends Error {}

/**
 * The value, which its caller knows to be there.
 *
 * @param what what it is, for whoever reads the error
 * @throws {MissingError} where there is none
 */
export function certain<T>(value: T, what: string): NonNullable<T> {
  if (value === undefined || value === null) throw new MissingError(`There is no ${what}.`)
  return value
}

/** The entry with a key that is known to be among the entries. @throws {MissingError} where it is not */
export function entryOf<T>(entries: Readonly<Record<string, T>>, key: string | number): T {
  const entry = entries[key]
  if (entry === undefined) throw new MissingError(`There is no entry “${key}”.`)
  return entry
}

/** What a map holds for a key that it is known to hold. @throws {MissingError} where it does not */
export function valueFor<K, T>(map: { get: (key: K) => T | undefined }, key: K): T {
  const value = map.get(key)
  if (value === undefined) throw new MissingError(`There is no value for “${String(key)}”.`)
  return value
}

/** The element at a place that the list is known to reach, counted from 0. @throws {MissingError} where it ends before */
export function elementAt<T>(list: ArrayLike<T>, index: number): T {
  const element = list[index]
  if (element === undefined)
    throw new MissingError(`There is no element ${index} in a list of ${list.length}.`)
  return element
}

/** The first element of a list that is known not to be empty. @throws {MissingError} where it is */
export const firstIn = <T>(list: ArrayLike<T>): T => elementAt(list, 0)

/** The last element of a list that is known not to be empty. @throws {MissingError} where it is */
export const lastIn = <T>(list: ArrayLike<T>): T => elementAt(list, list.length - 1)
