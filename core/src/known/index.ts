export { certain, elementAt, entryOf, firstIn, lastIn, MissingError, valueFor } from './presence.ts'
export {
  asNumber,
  asNumbers,
  asRecord,
  asText,
  asTextOrNull,
  asTexts,
  halves,
  isOneOf,
  isRecord,
  keysOf,
} from './shape.ts'
