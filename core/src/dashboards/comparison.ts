import type { MeasureContent } from './schema.ts'

type Target = Pick<MeasureContent, 'target' | 'better'>

/** Whether a figure meets the target of its measure; undefined where one of them is missing. */
export function meetsTarget(value: number | null, { target, better }: Target): boolean | undefined {
  if (value === null || target === null || better === null) return undefined
  return better === 'less' ? value <= target : value >= target
}

/**
 * How far a figure is from what it was at the end of the step before the running one.
 *
 * @param course the values at the ends of the steps, the running one last
 * @returns in the unit of the measure; null where one of the two is missing
 */
export function differenceToBefore(
  value: number | null,
  course: readonly (number | null)[],
): number | null {
  const before = course.at(-2) ?? null
  return value === null || before === null ? null : value - before
}

/** A difference in words: `3 more than the week before`. @param spell writes a number as the screen does */
export function differenceWords(
  difference: number,
  step: string,
  spell: (number: number) => string,
): string {
  if (difference === 0) return `as the ${step} before`
  const direction = difference > 0 ? 'more' : 'fewer'
  return `${spell(Math.abs(difference))} ${direction} than the ${step} before`
}

/** A target in words: `at most 9`; nothing where there is none. @param spell writes a number as the screen does */
export function targetWords({ target, better }: Target, spell: (number: number) => string): string {
  if (target === null) return ''
  return `${better === 'more' ? 'at least' : 'at most'} ${spell(target)}`
}
