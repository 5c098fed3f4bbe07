import { elementAt } from '../../known/index.ts'
import { foldsFrom, foldsTo, foldsToSeveral } from './casefold.generated.ts'

const folding = new Map<string, string>(foldsToSeveral)
const to = [...foldsTo]
for (const [index, from] of [...foldsFrom].entries()) folding.set(from, elementAt(to, index))

const ascii = /^[\u0000-\u007f]*$/

/** Full case folding of Unicode (CaseFolding.txt, statuses C and F): `Straße` and `STRASSE` fold alike. */
export function casei(text: string): string {
  if (ascii.test(text)) return text.toLowerCase()
  let folded = ''
  for (const char of text)
    folded += char <= '\u007f' ? char.toLowerCase() : (folding.get(char) ?? char)
  return folded
}

/** Drops accents: canonical decomposition, U+0300 to U+036F removed, composed again. */
export const accenti = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .normalize('NFC')
