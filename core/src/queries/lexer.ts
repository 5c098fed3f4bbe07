import { certain, entryOf } from '../known/index.ts'
import type { At, QueryError } from './tree/tree.ts'

export type TokenKind = 'name' | 'quotedName' | 'text' | 'number' | 'symbol' | 'end'

/** `value` is the decoded text of a literal or name; `raw` is what stands in the source. */
export interface Token extends At {
  readonly kind: TokenKind
  readonly value: string
  readonly raw: string
}

/** Thrown inside lexer and parser only; `parse` turns it into an outcome. */
export class Refusal extends Error {
  readonly error: QueryError
  constructor(error: QueryError) {
    super(error.message)
    this.error = error
  }
}

const nameStart = /[\p{L}\p{Nl}_:]/u
const namePart = /[\p{L}\p{Nl}\p{Mn}\p{Mc}\p{Nd}_:.]/u
const space = /\s/u
const numberShape = /^(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/
const symbols = ['<>', '<=', '>=', '(', ')', ',', '=', '<', '>', '+', '-', '*', '/', '%', '^']

/** What people write from other languages, and what stands for it here. */
const mends: Record<string, string> = {
  '==': '=',
  '!=': '<>',
  '><': '<>',
  '=<': '<=',
  '=>': '>=',
  '&&': 'AND',
  '||': 'OR',
  '!': 'NOT',
}

/**
 * Cuts a CQL2 text into tokens, the last one of kind `end`.
 *
 * @throws Refusal at the first character that no token can begin with, at an unclosed quote, and at a malformed number
 */
export function lex(source: string): Token[] {
  const tokens: Token[] = []
  cut(source, tokens)
  return tokens
}

/** The tokens of a text as far as it can be cut: what marks a text that is still being written. */
export function tokensOf(source: string): Token[] {
  const tokens: Token[] = []
  try {
    cut(source, tokens)
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
  }
  return tokens
}

function cut(source: string, tokens: Token[]): void {
  let at = 0
  const push = (kind: TokenKind, to: number, value: string): void => {
    const raw = source.slice(at, to)
    tokens.push({ kind, value: kind === 'number' ? raw : value, raw, from: at, to })
    at = to
  }
  while (at < source.length) {
    const char = characterAt(source, at)
    if (space.test(char)) at += char.length
    else if (char === "'") {
      const { value, to } = quoted(source, at)
      push('text', to, value)
    } else if (char === '"') {
      const { value, to } = quotedName(source, at)
      push('quotedName', to, value)
    } else if (numberShape.test(source.slice(at, at + 2)) || /\d/.test(char))
      push('number', numberEnd(source, at), '')
    else if (nameStart.test(char)) {
      const to = nameEnd(source, at)
      push('name', to, source.slice(at, to))
    } else pushSymbol(source, at, push)
  }
  tokens.push({ kind: 'end', value: '', raw: '', from: at, to: at })
}

function pushSymbol(
  source: string,
  at: number,
  push: (kind: TokenKind, to: number, value: string) => void,
): void {
  const foreign = Object.keys(mends).find((written) => source.startsWith(written, at))
  if (foreign) {
    const nearest = entryOf(mends, foreign)
    throw new Refusal({
      from: at,
      to: at + foreign.length,
      message: `“${foreign}” is not part of CQL2; write ${nearest}.`,
      found: foreign,
      nearest,
    })
  }
  const symbol = symbols.find((symbol) => source.startsWith(symbol, at))
  if (!symbol) {
    const found = characterAt(source, at)
    const message =
      found === '[' || found === '{'
        ? "Lists stand in round brackets: ('a', 'b')."
        : `“${found}” has no meaning here. Text stands in single quotes, names in letters, digits and _.`
    throw new Refusal({ from: at, to: at + found.length, message, found })
  }
  push('symbol', at + symbol.length, symbol)
}

/** A character literal: `''` and `\'` are a quote, every other backslash is itself. */
function quoted(source: string, from: number): { value: string; to: number } {
  let value = ''
  let at = from + 1
  while (at < source.length) {
    const two = source.slice(at, at + 2)
    if (two === "''" || two === "\\'") {
      value += "'"
      at += 2
    } else if (source[at] === "'") return { value, to: at + 1 }
    else value += source[at++]
  }
  throw new Refusal({
    from,
    to: source.length,
    message: 'This text is not closed: a single quote is missing at its end.',
    expected: "'",
  })
}

function quotedName(source: string, from: number): { value: string; to: number } {
  const end = source.indexOf('"', from + 1)
  if (end < 0)
    throw new Refusal({
      from,
      to: source.length,
      message: 'This name is not closed: a double quote is missing at its end.',
      expected: '"',
    })
  if (end === from + 1)
    throw new Refusal({
      from,
      to: end + 1,
      message: 'A name between double quotes may not be empty.',
    })
  return { value: source.slice(from + 1, end), to: end + 1 }
}

/** The character at a place before the end, with both halves of one beyond 16 bits. */
const characterAt = (source: string, at: number): string =>
  String.fromCodePoint(certain(source.codePointAt(at), `character ${at}`))

function nameEnd(source: string, from: number): number {
  let at = from
  while (at < source.length) {
    const char = characterAt(source, at)
    if (!namePart.test(char)) break
    at += char.length
  }
  while (source[at - 1] === '.') at -= 1
  return at
}

function numberEnd(source: string, from: number): number {
  const to = from + certain(numberShape.exec(source.slice(from)), 'number')[0].length
  const after = /^[\p{L}\p{N}_.]+/u.exec(source.slice(to))
  if (after) {
    const end = to + after[0].length
    throw new Refusal({
      from,
      to: end,
      message: `“${source.slice(from, end)}” is neither a number nor a name; a name begins with a letter.`,
      found: source.slice(from, end),
    })
  }
  return to
}
