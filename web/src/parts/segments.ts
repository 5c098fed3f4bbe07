import type { ItemAnswer, ItemsAnswer } from '@bluestem/core/queries'
import { sortText } from '@bluestem/core/views'
import { computed, reactive, ref } from 'vue'
import { call, messageOf } from '../api/http.ts'

/** One stretch of the list: all of it, or one group under a heading. */
export interface Segment {
  readonly key: string
  readonly title?: string
  /** how many items it has, where that is known; a refresh counts on it being told anew */
  readonly count?: number
  readonly filter: unknown
}
export interface SortBy {
  readonly by: string
  readonly direction: 'up' | 'down'
}

/** What a list of items asks for. */
export interface ListAsked {
  readonly segments: readonly Segment[]
  readonly columns: readonly string[]
  readonly order: readonly SortBy[]
  /** the day as of whose end it is read; empty for now */
  readonly asOf: string
}

interface ItemPlace {
  readonly kind: 'item'
  readonly segment: Segment
  readonly offset: number
}
export type Row = { readonly kind: 'heading'; readonly segment: Segment } | ItemPlace

export const isItem = (row: Row | undefined): row is ItemPlace => row?.kind === 'item'

const pageSize = 100
const pageOf = ({ offset }: ItemPlace): number => Math.floor(offset / pageSize)

/** The properties that a list reads: what its columns show, and what every row needs. */
export const fieldsOf = (columns: readonly string[]): string =>
  [...new Set(['title', 'status', ...columns])].join(',')

const readPage = async (
  { columns, order, asOf }: ListAsked,
  { filter }: Segment,
  page: number,
): Promise<ItemsAnswer> =>
  await call('POST /items/search', {
    body: {
      filter,
      kept: true,
      sort: sortText(order),
      fields: fieldsOf(columns),
      limit: pageSize,
      offset: page * pageSize,
      ...(asOf ? { 'as-of': asOf } : {}),
    },
  })

/**
 * The pages of the stretches, of which only those in sight are read.
 *
 * @param asked what is asked for at the moment
 * @param answered is told the first page of a list of which nobody said how many rows it has
 */
function usePages(asked: () => ListAsked, answered: (answers: ItemsAnswer) => void) {
  const pages = reactive(new Map<string, readonly ItemAnswer[]>())
  const requested = new Set<string>()
  const totals = reactive(new Map<string, number>())
  const told = ref('')
  let round = 0

  /** Stretches of which nobody said how many rows they have: their first page tells it. */
  const uncounted = computed(() => asked().segments.filter(({ count }) => count === undefined))

  async function load(segment: Segment, page: number): Promise<void> {
    const key = `${segment.key}:${page}`
    if (requested.has(key)) return
    requested.add(key)
    const mine = round
    const { segments } = asked()
    try {
      const answers = await readPage(asked(), segment, page)
      if (mine !== round) return
      pages.set(key, answers.items)
      totals.set(segment.key, answers.total)
      if (uncounted.value.length === segments.length) {
        const total = segments.reduce((sum, segment) => sum + (totals.get(segment.key) ?? 0), 0)
        answered({ ...answers, total })
      }
    } catch (error) {
      if (mine === round) told.value = messageOf(error)
    }
  }

  const loadUncounted = (): void => {
    for (const segment of uncounted.value) void load(segment, 0)
  }

  /** Asks another question: nothing of before is its answer. */
  function reload(): void {
    round += 1
    requested.clear()
    pages.clear()
    totals.clear()
    told.value = ''
    loadUncounted()
  }

  /** Lets every page be read anew: what is shown stays until its answer is there. */
  function forget(): void {
    round += 1
    requested.clear()
    for (const { key, count } of asked().segments) if (count !== undefined) totals.delete(key)
  }

  const itemOf = (row: Row | undefined): ItemAnswer | undefined =>
    isItem(row)
      ? pages.get(`${row.segment.key}:${pageOf(row)}`)?.[row.offset % pageSize]
      : undefined

  return {
    itemOf,
    totals,
    told,
    loadUncounted,
    reload,
    forget,
    load: async (place: ItemPlace): Promise<void> => await load(place.segment, pageOf(place)),
  }
}

/**
 * Which rows a list has: headings, and below each as many rows as it has items.
 *
 * @param asked what is asked for at the moment
 * @param answered is told the first page of a list of which nobody said how many rows it has
 */
export function useSegments(asked: () => ListAsked, answered: (answers: ItemsAnswer) => void) {
  const folded = reactive(new Set<string>())
  const { totals, ...pages } = usePages(asked, answered)
  const countOf = ({ key, count }: Segment): number => totals.get(key) ?? count ?? 0

  const lengths = computed(() =>
    asked().segments.map((segment) => ({
      segment,
      heading: segment.title === undefined ? 0 : 1,
      rows: folded.has(segment.key) ? 0 : countOf(segment),
    })),
  )
  const length = computed(() =>
    lengths.value.reduce((sum, length) => sum + length.heading + length.rows, 0),
  )

  /** Whether it is known how many rows there are: before that, nobody can say that nothing answers. */
  const isCounted = computed(() =>
    asked().segments.every(({ key, count }) => totals.has(key) || count !== undefined),
  )

  function rowAt(index: number): Row | undefined {
    let rest = index
    for (const { segment, heading, rows } of lengths.value) {
      if (heading && rest === 0) return { kind: 'heading', segment }
      rest -= heading
      if (rest < rows) return { kind: 'item', segment, offset: rest }
      rest -= rows
    }
    return undefined
  }

  /** Folds a stretch below its heading, or unfolds it. */
  function turn({ key }: Segment): void {
    if (!folded.delete(key)) folded.add(key)
  }

  const isFolded = ({ key }: Segment): boolean => folded.has(key)
  return { ...pages, length, isCounted, countOf, rowAt, turn, isFolded }
}
