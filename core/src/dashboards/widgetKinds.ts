import { keysOf } from '../known/index.ts'

/** How a kind of widget is made, and how much room it takes at first. */
export interface WidgetKindEntry {
  /** what it shows, in words */
  readonly words: string
  /** what it shows something of */
  readonly of: 'measure' | 'query'
  /** whether its figures are told by a property */
  readonly by: 'never' | 'if wanted' | 'always'
  /** whether it looks back over a span of days */
  readonly looksBack: boolean
  /** cells of the grid that it takes at first, across and down */
  readonly size: readonly [width: number, height: number]
}

/** The one table of the kinds of widgets. What each looks like stands in `web/src/dashboards/widgets`, in a file of its name. */
const kinds = {
  figure: {
    words: 'a figure with its course',
    of: 'measure',
    by: 'never',
    looksBack: true,
    size: [3, 2],
  },
  bars: { words: 'bars by a field', of: 'measure', by: 'always', looksBack: false, size: [5, 4] },
  course: {
    words: 'a course over time',
    of: 'measure',
    by: 'if wanted',
    looksBack: true,
    size: [7, 4],
  },
  list: { words: 'a list of answers', of: 'query', by: 'never', looksBack: false, size: [6, 4] },
} as const satisfies Record<string, WidgetKindEntry>

export type WidgetKind = keyof typeof kinds

export const widgetKinds = keysOf(kinds)

export const widgetKind = (kind: WidgetKind): WidgetKindEntry => kinds[kind]
