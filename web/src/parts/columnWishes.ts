import { ref, watch, type Ref } from 'vue'

/** How somebody wants to see the columns of a table, by their headers. */
export interface ColumnWishes {
  readonly hidden: readonly string[]
  /** widths in pixels; a column without one is as wide as what stands in it */
  readonly widths: Readonly<Record<string, number>>
}

const none: ColumnWishes = { hidden: [], widths: {} }

/** Fewer columns than these are all seen. */
export const chosenFrom = 4

/** How far one step makes a column wider or narrower, and how narrow it can be, in pixels. */
const [step, narrowest] = [32, 48]

/** A column a step wider, or narrower. */
export const sized = (
  { hidden, widths }: ColumnWishes,
  header: string,
  now: number,
  by: 1 | -1,
): ColumnWishes => ({
  hidden,
  widths: { ...widths, [header]: Math.max(narrowest, Math.round(now) + by * step) },
})

/** How the columns of a table are wanted; this browser remembers it. */
export function useColumnWishes(table: string): Ref<ColumnWishes> {
  const place = `columns: ${table}`
  const wishes = ref(read(place))
  watch(wishes, (now) => localStorage.setItem(place, JSON.stringify(now)))
  return wishes
}

/** What was remembered; nothing of it where it is not what is written here. */
function read(place: string): ColumnWishes {
  try {
    // Only this file writes there; what does not fit is caught.
    const kept = JSON.parse(localStorage.getItem(place) ?? '{}') as Partial<ColumnWishes>
    const isWhole = Array.isArray(kept.hidden) && typeof kept.widths === 'object'
    return isWhole ? { ...none, ...kept } : none
  } catch {
    return none
  }
}
