import { certain, elementAt } from '../known/index.ts'
import { asChoice, asChoices, type ShownChoice } from '../schema/index.ts'
import type { Property } from '../queries/tree/checked.ts'

/** What a spreadsheet takes for the beginning of a formula (OWASP, *CSV Injection*; from memory). */
const opening = /^'*[=+\-@\t\r]/

/** A text that no spreadsheet takes for a formula: a quote stands before what begins like one, also where quotes stand there already. */
export const guardCell = (text: string): string => (opening.test(text) ? `'${text}` : text)

/** The text that was guarded. */
export const unguardCell = (text: string): string =>
  text.startsWith("'") && opening.test(text.slice(1)) ? text.slice(1) : text

/** What parts the values of a cell that holds several. */
const between = '; '

const quoted = (name: string): string =>
  /[;"\n\r]|^\s|\s$|^$/.test(name) ? `"${name.replaceAll('"', '""')}"` : name

/** Several names in one cell; one that holds a semicolon stands in quotes. */
export const joinNames = (names: readonly string[]): string => names.map(quoted).join(between)

/** The names that a cell holds, parted by semicolons outside of quotes; none of an empty one. */
export function splitNames(cell: string): string[] {
  const names: string[] = []
  let [name, isQuoted, wasQuoted] = ['', false, false]
  const end = (): void => {
    const found = wasQuoted ? name : name.trim()
    if (found !== '' || wasQuoted) names.push(found)
    ;[name, wasQuoted] = ['', false]
  }
  for (let at = 0; at < cell.length; at += 1) {
    const char = elementAt(cell, at)
    if (isQuoted && char === '"' && cell[at + 1] === '"') {
      name += '"'
      at += 1
    } else if (char === '"' && (isQuoted || name.trim() === '')) {
      isQuoted = !isQuoted
      if (isQuoted) [name, wasQuoted] = ['', true]
    } else if (char === ';' && !isQuoted) end()
    else if (!wasQuoted || isQuoted) name += char
  }
  end()
  return names
}

/** What a choice is called in a cell: a label with its family before it. */
const nameOf = ({ title, family }: ShownChoice): string => (family ? `${family}: ${title}` : title)

const textOf = (value: unknown): string =>
  typeof value === 'string' ? value : JSON.stringify(value)

/**
 * A value as a cell of a file holds it: choices by their names, days and moments as ISO 8601 and RFC 3339 write them, numbers as
 * they are. Text from people is guarded against being taken for a formula.
 *
 * @param value as an item travels
 */
export function cellOf({ type }: Property, value: unknown): string {
  if (value === null || value === undefined) return ''
  switch (type.kind) {
    case 'boolean':
      return value === true ? 'yes' : 'no'
    case 'choice':
      return guardCell(nameOf(certain(asChoice(value), 'choice')))
    case 'array':
      return guardCell(joinNames(asChoices(value).map(nameOf)))
    case 'number':
      return textOf(value)
    default:
      return guardCell(textOf(value))
  }
}
