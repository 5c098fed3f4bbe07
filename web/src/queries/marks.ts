import { RangeSetBuilder, type Text } from '@codemirror/state'
import {
  Decoration,
  type DecorationSet,
  type EditorView,
  ViewPlugin,
  type ViewUpdate,
} from '@codemirror/view'
import { isReserved, tokensOf, type Token } from '@bluestem/core/queries'

/** What a token is to whoever reads the text; nothing for brackets and commas. */
function markOf({ kind, value }: Token, next: Token | undefined): string | undefined {
  switch (kind) {
    case 'text':
      return 'query-value'
    case 'number':
      return 'query-number'
    case 'quotedName':
      return 'query-name'
    case 'symbol':
      return 'query-sign'
    case 'name':
      if (isReserved(value)) return 'query-word'
      return next?.raw === '(' ? 'query-function' : 'query-name'
    case 'end':
      return undefined
  }
}

/** The marks of a text, cut as the query's own reader cuts it. */
function marksIn(text: Text): DecorationSet {
  const marks = new RangeSetBuilder<Decoration>()
  const tokens = tokensOf(text.toString())
  for (const [index, token] of tokens.entries()) {
    const mark = markOf(token, tokens[index + 1])
    if (mark) marks.add(token.from, token.to, Decoration.mark({ class: mark }))
  }
  return marks.finish()
}

/** Marks a query's text while it is written. */
export const queryMarks = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet

    constructor(view: EditorView) {
      this.decorations = marksIn(view.state.doc)
    }

    update({ docChanged, state }: ViewUpdate): void {
      if (docChanged) this.decorations = marksIn(state.doc)
    }
  },
  { decorations: ({ decorations }) => decorations },
)
