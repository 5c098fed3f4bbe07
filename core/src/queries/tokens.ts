import { elementAt } from '../known/index.ts'
import { lex, Refusal, type Token } from './lexer.ts'
import { type At, bounds, type QueryError, type Scalar } from './tree/tree.ts'

/** Walks the tokens of a query's text; what reads a grammar from them extends it. */
export class TokenReader {
  protected readonly text: string
  protected readonly tokens: Token[]
  /** how many brackets are open before each token */
  protected readonly brackets: number[] = []
  protected next = 0

  constructor(text: string) {
    this.text = text
    this.tokens = lex(text)
    let open = 0
    for (const { kind, raw } of this.tokens) {
      this.brackets.push(open)
      if (kind === 'symbol' && raw === '(') open += 1
      if (kind === 'symbol' && raw === ')') open -= 1
    }
  }

  protected peek(ahead = 0): Token {
    return elementAt(this.tokens, Math.min(this.next + ahead, this.tokens.length - 1))
  }

  protected take(): Token {
    const token = this.peek()
    if (token.kind !== 'end') this.next += 1
    else this.next = this.tokens.length
    return token
  }

  protected isSymbol(raw: string): boolean {
    const token = this.peek()
    return token.kind === 'symbol' && token.raw === raw
  }

  protected isWord(word: string): boolean {
    const token = this.peek()
    return token.kind === 'name' && token.value.toLowerCase() === word
  }

  protected isTruth(): boolean {
    return this.isWord('true') || this.isWord('false')
  }

  protected takeWord(word: string): boolean {
    if (!this.isWord(word)) return false
    this.next += 1
    return true
  }

  protected expectSymbol(raw: string, message = `Here “${raw}” is missing.`): void {
    if (!this.isSymbol(raw)) this.refuse(this.peek(), message, raw, this.peek().raw)
    this.next += 1
  }

  protected closing(open: number): number {
    let depth = 0
    for (let at = open; at < this.tokens.length; at += 1) {
      const token = elementAt(this.tokens, at)
      if (token.kind !== 'symbol') continue
      if (token.raw === '(') depth += 1
      if (token.raw === ')') depth -= 1
      if (depth === 0) return at
    }
    return this.tokens.length
  }

  protected list(close: string, part: () => Scalar): Scalar[] {
    const items: Scalar[] = []
    if (this.isSymbol(close)) {
      this.next += 1
      return items
    }
    for (;;) {
      items.push(part())
      if (items.length > bounds.list)
        this.refuse(this.peek(), `A list may hold at most ${bounds.list} values.`)
      if (this.isSymbol(',')) this.next += 1
      else break
    }
    this.expectSymbol(close)
    return items
  }

  /** Recursion happens only inside brackets, so counting those bounds it. */
  protected deeper<T>(part: () => T): T {
    if (elementAt(this.brackets, Math.min(this.next, this.tokens.length - 1)) > bounds.depth)
      this.refuse(this.peek(), `This query is nested deeper than ${bounds.depth} levels.`)
    return part()
  }

  protected span(start: { at: At } | Token): At {
    return {
      from: 'at' in start ? start.at.from : start.from,
      to: elementAt(this.tokens, this.next - 1).to,
    }
  }

  protected refuse(
    at: At,
    message: string,
    expected?: string,
    found?: string,
    nearest?: string,
  ): never {
    const error: QueryError = {
      from: at.from,
      to: at.to,
      message,
      ...(expected === undefined ? {} : { expected }),
      ...(found ? { found } : {}),
      ...(nearest === undefined ? {} : { nearest }),
    }
    throw new Refusal(error)
  }
}
