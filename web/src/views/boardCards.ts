import { certain } from '@bluestem/core/known'
import type { ItemAnswer } from '@bluestem/core/queries'
import {
  type ArrangedBoard,
  cardFields,
  columnFilter,
  sortText,
  type StandingAnswer,
  type ViewContent,
} from '@bluestem/core/views'
import { reactive } from 'vue'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useNotes } from '../parts/notes.store.ts'

/** A board as it is defined, and as it stands now. */
export interface BoardShown {
  readonly content: ViewContent
  readonly arranged: ArrangedBoard
}

/** The name of a column: the value its cards have in common; empty for those that have none. */
export const columnKey = (value: string | null): string => value ?? ''

/** How many cards more a column shows at once. */
const step = 60

/** The cards of a board, column by column. */
export function useBoardCards(shown: () => BoardShown) {
  const vocabulary = useVocabulary()
  const notes = useNotes()
  const cards = reactive<Record<string, ItemAnswer[]>>({})
  const limits = reactive<Record<string, number>>({})

  /** Asks for more cards of a column than came with the board. */
  async function load(column: StandingAnswer): Promise<void> {
    const { content, arranged } = shown()
    const board = certain(content.board, 'board')
    const property = vocabulary.property(board.by)
    const answers = await call('POST /items/search', {
      body: {
        filter: columnFilter(arranged.filter, property, column.value, arranged.finishedBefore),
        kept: true,
        sort: sortText(content.order),
        fields: cardFields(board).join(','),
        limit: limits[columnKey(column.value)],
      },
    })
    cards[columnKey(column.value)] = [...answers.items]
  }

  /** Takes the cards that came with the board; of columns that were opened further, the rest is asked for. */
  async function take(): Promise<void> {
    const further: StandingAnswer[] = []
    for (const column of shown().arranged.columns) {
      const name = columnKey(column.value)
      if ((limits[name] ?? 0) > column.cards.length && column.count > column.cards.length)
        further.push(column)
      else cards[name] = [...column.cards]
    }
    await notes.attempt(async () => void (await Promise.all(further.map(load))))
  }

  async function more(column: StandingAnswer): Promise<void> {
    const name = columnKey(column.value)
    limits[name] = (cards[name]?.length ?? 0) + step
    await load(column)
  }

  /** Puts a card into a column at once; what else the board shows of it comes with the next arrangement. */
  function put(item: ItemAnswer, column: string): void {
    for (const [name, list] of Object.entries(cards)) {
      const place = list.findIndex((card) => card.ref === item.ref)
      if (name === column && place >= 0) list.splice(place, 1, item)
      else if (place >= 0) list.splice(place, 1)
      else if (name === column) list.unshift(item)
    }
  }

  return { cards, take, more, put }
}
