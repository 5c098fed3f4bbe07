import { elementAt } from '../known/index.ts'
import { accenti, casei } from '../queries/values/fold.ts'
import type { QueryNames } from '../queries/tree/vocabulary.ts'
import type { Property } from '../queries/tree/checked.ts'
import { givenHandles } from '../work/schema.ts'
import { unguardCell } from './cell.ts'
import { dayOrders, detectDayOrder, readDayAs } from './day.ts'
import { type ColumnTarget, type LinkKinds, linkTargets } from './linkColumn.ts'

/** how many values of a column must fit a field for the column to be taken for it */
const alike = 0.6
/** how many characters the values of a title have on average, at least */
const titleLength = 8

const plain = (text: string): string => casei(accenti(text)).replaceAll(/[^\p{L}\p{N}]/gu, '')

/** The fields that a row can give a value. */
export const importable = (vocabulary: QueryNames): Property[] =>
  [...vocabulary.properties.values()].filter(
    ({ builtIn, handle, computed }) => !computed && (!builtIn || givenHandles.has(handle)),
  )

/** Whether most of the values are choices of a field. */
function holdsChoices(
  vocabulary: QueryNames,
  { type }: Property,
  samples: readonly string[],
): boolean {
  if (type.kind !== 'choice' || type.domain === 'item' || samples.length === 0) return false
  const names = new Set(vocabulary.choices(type.domain).map(({ name }) => plain(name)))
  return samples.filter((sample) => names.has(plain(sample))).length >= alike * samples.length
}

/** Whether most of the values are days. */
const holdsDays = (samples: readonly string[]): boolean =>
  samples.length > 0 &&
  dayOrders.some(
    (order) =>
      samples.filter((sample) => readDayAs(sample, order) !== undefined).length >=
      alike * samples.length,
  )

/** Whether the values read like titles: words, hardly any twice. */
function holdsTitles(samples: readonly string[]): boolean {
  const length =
    samples.reduce((sum, sample) => sum + sample.length, 0) / Math.max(1, samples.length)
  const isWords =
    samples.filter((sample) => /\p{L}{3}/u.test(sample)).length >= alike * samples.length
  return length >= titleLength && isWords && new Set(samples).size >= alike * samples.length
}

/**
 * What each column of a file is taken for: by its heading where that is the title or handle of a field, else by its values.
 *
 * @param samples values of each column, the empty ones left out
 */
export function proposeColumns(
  headings: readonly string[],
  samples: readonly (readonly string[])[],
  vocabulary: QueryNames,
  linkKinds: LinkKinds,
): ColumnTarget[] {
  const fields = importable(vocabulary)
  const links = linkTargets(linkKinds)
  const taken = new Set<string>()
  const take = (handle: string | undefined): ColumnTarget => {
    if (handle === undefined || taken.has(handle)) return null
    taken.add(handle)
    return handle
  }
  const byHeading = headings.map((heading) => {
    const words = plain(unguardCell(heading))
    if (words === 'ref') return take('ref')
    const named = fields.find(
      ({ handle, title }) => plain(title) === words || plain(handle) === words,
    )
    return take(named?.handle ?? links.find((link) => plain(link.words) === words)?.target)
  })
  const byValues = byHeading.map((target, index) => {
    if (target !== null) return target
    if (holdsDays(elementAt(samples, index))) return take('due')
    const held = fields.find(
      (field) =>
        !taken.has(field.handle) && holdsChoices(vocabulary, field, elementAt(samples, index)),
    )
    return take(held?.handle)
  })
  const title = byValues.findIndex(
    (target, index) => target === null && holdsTitles(elementAt(samples, index)),
  )
  return byValues.map((target, index) => (index === title ? take('title') : target))
}

/** The order in which the days of a file are written, by the columns that become days. */
export const proposeDayOrder = (
  targets: readonly ColumnTarget[],
  samples: readonly (readonly string[])[],
  vocabulary: QueryNames,
): ReturnType<typeof detectDayOrder> =>
  detectDayOrder(
    targets.flatMap((target, index) =>
      target !== null && vocabulary.properties.get(target)?.type.kind === 'date'
        ? elementAt(samples, index).filter((text) => /\d/.test(text))
        : [],
    ),
  )
