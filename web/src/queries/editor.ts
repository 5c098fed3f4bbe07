import { elementAt } from '@bluestem/core/known'
import {
  autocompletion,
  completionKeymap,
  type Completion,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { setDiagnostics, type Diagnostic } from '@codemirror/lint'
import { EditorState } from '@codemirror/state'
import { EditorView, keymap, placeholder } from '@codemirror/view'
import {
  quoteText,
  type Domain,
  type QueryError,
  type VocabularyAnswer,
} from '@bluestem/core/queries'
import { queryMarks } from './marks.ts'

export interface QueryTextEditor {
  readonly set: (text: string) => void
  readonly mark: (errors: readonly QueryError[]) => void
  readonly close: () => void
}

const look = EditorView.theme({
  '&': { fontSize: '14px', minHeight: '64px' },
  '.cm-content': { fontFamily: 'var(--code)', padding: '8px', caretColor: 'var(--ink)' },
  '&.cm-focused': { outline: '2px solid var(--stem)', outlineOffset: '1px' },
  '.cm-tooltip': {
    background: 'var(--sheet)',
    border: '1px solid var(--rule)',
    color: 'var(--ink)',
    fontFamily: 'var(--sans)',
  },
  '.cm-tooltip-autocomplete ul li[aria-selected]': {
    background: 'var(--stem-wash)',
    color: 'var(--ink)',
  },
  '.cm-placeholder': { color: 'var(--quiet)' },
  '.query-word': { color: 'var(--stem)', fontWeight: '600' },
  '.query-value': { color: 'var(--leaf)' },
  '.query-number': { color: 'var(--hold)' },
  '.query-function': { color: 'var(--russet)' },
  '.query-name': { color: 'var(--ink)' },
  '.query-sign': { color: 'var(--quiet)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
    background: 'var(--stem-wash) !important',
  },
})

export function makeEditor(
  host: HTMLElement,
  text: string,
  vocabulary: VocabularyAnswer,
  empty: string,
  changed: (text: string) => void,
  ask: () => void,
): QueryTextEditor {
  const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce ?? ''
  const view = new EditorView({
    parent: host,
    state: EditorState.create({
      doc: text,
      extensions: [
        EditorView.cspNonce.of(nonce),
        history(),
        EditorView.lineWrapping,
        queryMarks,
        look,
        placeholder(empty),
        autocompletion({ override: [(context) => complete(context, vocabulary)], icons: false }),
        keymap.of([
          { key: 'Mod-Enter', run: () => (ask(), true) },
          ...completionKeymap,
          ...historyKeymap,
          ...defaultKeymap,
        ]),
        EditorView.contentAttributes.of({ 'aria-label': 'The query as text', spellcheck: 'false' }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) changed(update.state.doc.toString())
        }),
      ],
    }),
  })
  return {
    set: (wanted) => {
      if (wanted !== view.state.doc.toString())
        view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: wanted } })
    },
    mark: (errors) =>
      view.dispatch(
        setDiagnostics(
          view.state,
          errors.map((error) => diagnostic(error, view.state.doc.length)),
        ),
      ),
    close: () => view.destroy(),
  }
}

function diagnostic(error: QueryError, length: number): Diagnostic {
  const from = Math.min(error.from, length)
  const { nearest } = error
  return {
    from,
    to: Math.max(from, Math.min(error.to, length)),
    severity: 'error',
    message: error.message,
    ...(nearest
      ? {
          actions: [
            {
              name: `Write ${nearest}`,
              apply: (view: EditorView, start: number, end: number) =>
                view.dispatch({ changes: { from: start, to: end, insert: nearest } }),
            },
          ],
        }
      : {}),
  }
}

/** What the first argument of a function names, where it is one of a domain. */
function domainOfArgument({ functions }: VocabularyAnswer, name: string): Domain | undefined {
  const first = functions.find((entry) => entry.name === name.toLowerCase())?.forms[0]?.[0]
  if (first?.kind === 'teams') return 'team'
  if (first?.kind === 'label') return 'label'
  return first?.kind === 'choice' ? first.domain : undefined
}

/** Offers what may stand here: values after a comparison with a choice, else properties, functions and words. */
function complete(
  context: CompletionContext,
  vocabulary: VocabularyAnswer,
): CompletionResult | null {
  const before = context.state.sliceDoc(Math.max(0, context.pos - 200), context.pos)
  const value =
    /([\p{L}_][\p{L}\p{N}_.]*)\s*(?:=|<>|(?:NOT\s+)?IN\s*\((?:[^()]*,)?|,\s*\((?:[^()]*,)?)\s*('[^']*)?$/iu.exec(
      before,
    )
  const property =
    value &&
    vocabulary.properties.find(
      (property) => property.handle === elementAt(value, 1).replace(/^parent\./, ''),
    )
  if (property && (property.type.kind === 'choice' || property.type.kind === 'array'))
    return valueResult(context, vocabulary.choices[property.type.domain] ?? [], value[2] ?? '')
  const argument = /([\p{L}_]+)\(\s*('[^']*)?$/iu.exec(before)
  const named = argument && domainOfArgument(vocabulary, elementAt(argument, 1))
  if (named) return valueResult(context, vocabulary.choices[named] ?? [], argument[2] ?? '')
  const word = context.matchBefore(/[\p{L}_][\p{L}\p{N}_.]*/u)
  if (!word && !context.explicit) return null
  const options: Completion[] = [
    ...vocabulary.properties
      .filter((property) => !property.orderOnly && property.leftOf === undefined)
      .map((property): Completion => ({
        label: property.handle,
        detail: property.title,
        type: 'property',
        boost: property.builtIn ? 1 : 0,
      })),
    ...vocabulary.functions.map((entry): Completion => ({
      label: `${entry.name}()`,
      apply: `${entry.name}(`,
      detail: entry.doc,
      type: 'function',
    })),
    ...['AND', 'OR', 'NOT', 'LIKE', 'BETWEEN', 'IN', 'IS NULL', 'IS NOT NULL', 'TRUE', 'FALSE'].map(
      (label): Completion => ({ label, type: 'keyword', boost: -1 }),
    ),
  ]
  return { from: word?.from ?? context.pos, options }
}

function valueResult(
  context: CompletionContext,
  choices: VocabularyAnswer['choices'][Domain],
  typed: string,
): CompletionResult {
  const twice = new Set(
    choices.map((choice) => choice.name).filter((name, index, all) => all.indexOf(name) !== index),
  )
  const spelled = choices.map((choice) =>
    quoteText(twice.has(choice.name) ? choice.qualified : choice.name),
  )
  return {
    from: context.pos - typed.length,
    options: spelled.map((label, index) => ({
      label,
      detail:
        elementAt(choices, index).title === elementAt(choices, index).name
          ? ''
          : elementAt(choices, index).title,
    })),
    validFor: /^'?[^']*'?$/,
  }
}
