import { isDay, isInstantText } from '../calendar/day.ts'
import { lex, Refusal, type Token } from './lexer.ts'
import { literalEndsBefore, plainNumber } from './literal.ts'
import { isReserved, quoteName } from './name.ts'
import {
  arrayOps,
  bounds,
  compareOps,
  temporalOps,
  type ArithmeticOp,
  type ArrayOp,
  type At,
  type CompareOp,
  type Filter,
  type Outcome,
  type QueryError,
  type Scalar,
  type TemporalOp,
} from './tree.ts'

const arrayNames = new Map<string, ArrayOp>(arrayOps.map((op) => [op.toLowerCase(), op]))
const temporalNames = new Map<string, TemporalOp>(temporalOps.map((op) => [op.toLowerCase(), op]))

/**
 * Reads a CQL2 text into a filter. Only the grammar is judged here; `check` says what the names mean.
 *
 * @returns the tree, or the first error with its place; texts over the bounds are refused
 */
export function parse(text: string): Outcome<Filter> {
  if (text.length > bounds.length) {
    return {
      ok: false,
      errors: [
        {
          from: bounds.length,
          to: text.length,
          message: `This query has ${text.length} characters; at most ${bounds.length} are read.`,
        },
      ],
    }
  }
  try {
    return { ok: true, value: new Parser(text).whole() }
  } catch (refusal) {
    if (refusal instanceof Refusal) return { ok: false, errors: [refusal.error] }
    throw refusal
  }
}

/** What a bracket of arithmetic may hold alone. */
const computable = new Set<Scalar['kind']>(['number', 'property', 'call', 'arithmetic'])

class Parser {
  readonly #text: string
  readonly #tokens: Token[]
  /** how many brackets are open before each token */
  readonly #brackets: number[] = []
  #next = 0

  constructor(text: string) {
    this.#text = text
    this.#tokens = lex(text)
    let open = 0
    for (const { kind, raw } of this.#tokens) {
      this.#brackets.push(open)
      if (kind === 'symbol' && raw === '(') open += 1
      if (kind === 'symbol' && raw === ')') open -= 1
    }
  }

  whole(): Filter {
    if (this.#peek().kind === 'end')
      this.#refuse(
        { from: 0, to: this.#text.length },
        'There is nothing to ask yet.',
        "a condition, such as status = 'Open'",
      )
    const filter = this.#either()
    const rest = this.#peek()
    if (rest.kind !== 'end')
      this.#refuse(
        rest,
        `Nothing may follow here; “${rest.raw}” does.`,
        'AND, OR or the end',
        rest.raw,
      )
    return filter
  }

  #either(): Filter {
    return this.#joined('or', () => this.#joined('and', () => this.#factor()))
  }

  #joined(kind: 'and' | 'or', part: () => Filter): Filter {
    const args = [part()]
    while (this.#takeWord(kind)) args.push(part())
    return args.length === 1
      ? args[0]!
      : { kind, args, at: { from: args[0]!.at.from, to: args.at(-1)!.at.to } }
  }

  #factor(): Filter {
    const not = this.#peek()
    if (!this.#takeWord('not')) return this.#deeper(() => this.#primary())
    if (this.#isWord('not'))
      this.#refuse(
        this.#peek(),
        'NOT may not follow NOT; put brackets around what it denies: NOT (NOT …).',
        'a condition or a bracket',
        'NOT',
      )
    const arg = this.#deeper(() => this.#primary())
    return { kind: 'not', arg, at: { from: not.from, to: arg.at.to } }
  }

  #primary(): Filter {
    const first = this.#peek()
    if (this.#isSymbol('(')) {
      const bracket = this.#bracketedFilter()
      if (bracket) return bracket
    }
    if (this.#isTruth() && !this.#comparesNext(1)) {
      this.#next += 1
      return { kind: 'truth', value: first.value.toLowerCase() === 'true', at: first }
    }
    const name = first.kind === 'name' && this.#peek(1).raw === '(' ? first.value.toLowerCase() : ''
    const arrayOp = arrayNames.get(name)
    if (arrayOp) return this.#arrayPredicate(arrayOp)
    const temporalOp = temporalNames.get(name)
    if (temporalOp) return this.#temporalPredicate(temporalOp)
    return this.#predicate(this.#sum())
  }

  /** A bracket may hold a filter or begin a sum: read it as a filter unless what follows it compares or computes. */
  #bracketedFilter(): Filter | undefined {
    const start = this.#next
    const after = this.#tokens[this.#closing(start) + 1]
    if (after && this.#continuesScalar(after)) return undefined
    this.#next += 1
    const inner = this.#deeper(() => this.#either())
    this.#expectSymbol(')')
    return {
      ...inner,
      at: { from: this.#tokens[start]!.from, to: this.#tokens[this.#next - 1]!.to },
    }
  }

  #closing(open: number): number {
    let depth = 0
    for (let at = open; at < this.#tokens.length; at += 1) {
      const token = this.#tokens[at]!
      if (token.kind !== 'symbol') continue
      if (token.raw === '(') depth += 1
      if (token.raw === ')') depth -= 1
      if (depth === 0) return at
    }
    return this.#tokens.length
  }

  #continuesScalar(token: Token): boolean {
    if (token.kind === 'symbol') return token.raw !== ')' && token.raw !== ','
    return (
      token.kind === 'name' &&
      ['like', 'between', 'in', 'is', 'not', 'div'].includes(token.value.toLowerCase())
    )
  }

  #comparesNext(ahead: number): boolean {
    return this.#continuesScalar(this.#peek(ahead))
  }

  #predicate(left: Scalar): Filter {
    const token = this.#peek()
    if (token.kind === 'symbol' && (compareOps as readonly string[]).includes(token.raw)) {
      this.#next += 1
      const right = this.#sum()
      return { kind: 'compare', op: token.raw as CompareOp, left, right, at: this.#span(left) }
    }
    const not = this.#isWord('not') ? this.#peek() : undefined
    if (not) {
      this.#next += 1
      if (!['like', 'between', 'in'].some((word) => this.#isWord(word)))
        this.#refuse(
          { from: not.from, to: this.#peek().to },
          'Here NOT is followed by LIKE, BETWEEN or IN; for emptiness write IS NOT NULL.',
          'LIKE, BETWEEN or IN',
          this.#peek().raw,
        )
    }
    const bare = this.#wordPredicate(left)
    if (bare) return not ? { kind: 'not', arg: bare, at: bare.at } : bare
    return this.#bareScalar(left)
  }

  #wordPredicate(value: Scalar): Filter | undefined {
    if (this.#takeWord('like'))
      return {
        kind: 'like',
        value: this.#textual(value),
        pattern: this.#pattern(),
        at: this.#span(value),
      }
    if (this.#takeWord('between')) {
      const low = this.#betweenBound()
      if (!this.#takeWord('and'))
        this.#refuse(
          this.#peek(),
          'BETWEEN takes two bounds joined by AND: x BETWEEN 1 AND 5.',
          'AND',
          this.#peek().raw,
        )
      return { kind: 'between', value, low, high: this.#betweenBound(), at: this.#span(value) }
    }
    if (this.#takeWord('in')) {
      this.#expectSymbol('(', "IN takes a list in round brackets: IN ('a', 'b').")
      const list = this.#list(')', () => this.#sum())
      if (list.length === 0)
        this.#refuse(this.#tokens[this.#next - 1]!, 'The list of IN may not be empty.', 'a value')
      return { kind: 'in', value, list, at: this.#span(value) }
    }
    if (!this.#takeWord('is')) return undefined
    const not = this.#takeWord('not')
    if (!this.#takeWord('null'))
      this.#refuse(this.#peek(), 'After IS stands NULL or NOT NULL.', 'NULL', this.#peek().raw)
    const isNull: Filter = { kind: 'isNull', value, at: this.#span(value) }
    return not ? { kind: 'not', arg: isNull, at: isNull.at } : isNull
  }

  #bareScalar(value: Scalar): Filter {
    if (value.kind === 'call') return value
    const follows = this.#peek()
    if (
      value.kind === 'property' &&
      follows.kind === 'name' &&
      temporalNames.has(follows.value.toLowerCase())
    )
      this.#refuse(
        follows,
        `${follows.raw} is written before what it compares: ${follows.raw}(${value.name}, …).`,
        'a comparison',
        follows.raw,
      )
    const mend = value.kind === 'property' ? `${quoteName(value.name)} = TRUE` : undefined
    this.#refuse(
      value.at,
      mend
        ? `A property alone is no condition; for a yes/no property write ${mend}.`
        : 'A value alone is no condition; it must be compared with something.',
      'a comparison',
      this.#text.slice(value.at.from, value.at.to),
      mend,
    )
  }

  #betweenBound(): Scalar {
    const bound = this.#sum()
    if (bound.kind === 'date' || bound.kind === 'timestamp')
      this.#refuse(
        bound.at,
        'BETWEEN takes numbers; for dates write x >= DATE(…) AND x <= DATE(…), or T_INTERSECTS(x, INTERVAL(…)).',
        'a number',
        this.#text.slice(bound.at.from, bound.at.to),
      )
    return bound
  }

  #pattern(): Scalar {
    const token = this.#peek()
    if (token.kind === 'text') return this.#atom()
    if (
      token.kind === 'name' &&
      ['casei', 'accenti'].includes(token.value.toLowerCase()) &&
      this.#peek(1).raw === '('
    )
      return this.#fold(() => this.#pattern())
    this.#refuse(
      token,
      'LIKE takes a pattern in single quotes: % stands for any run of characters, _ for one.',
      "'pattern'",
      token.raw,
    )
  }

  #textual(value: Scalar): Scalar {
    if (value.kind === 'number' || value.kind === 'boolean')
      this.#refuse(
        value.at,
        'LIKE compares text; a number or a truth value stands before it.',
        'text',
      )
    return value
  }

  #arrayPredicate(op: ArrayOp): Filter {
    const start = this.#take()
    this.#next += 1
    const left = this.#arrayExpression()
    this.#expectSymbol(',')
    const right = this.#arrayExpression()
    this.#expectSymbol(')')
    return { kind: 'array', op, left, right, at: this.#span(start) }
  }

  #arrayExpression(): Scalar {
    const token = this.#peek()
    if (token.raw === '(' || token.kind === 'quotedName') return this.#arrayItem()
    if (token.kind === 'name' && !isReserved(token.value)) return this.#atom()
    this.#refuse(
      token,
      "An array stands in round brackets: ('a', 'b').",
      'a property, a function or a list',
      token.raw,
    )
  }

  /** One member of an array; a bracket with several members, or none, is an array inside. */
  #arrayItem(): Scalar {
    if (!this.#isSymbol('(')) return this.#sum()
    const open = this.#take()
    const items = this.#list(')', () => this.#deeper(() => this.#nestedItem()))
    return { kind: 'array', items, at: this.#span(open) }
  }

  #nestedItem(): Scalar {
    if (!this.#isSymbol('(')) return this.#sum()
    const after = this.#tokens[this.#closing(this.#next) + 1]
    if (after && after.raw !== ',' && after.raw !== ')') return this.#sum()
    const inner = this.#arrayItem()
    return inner.kind === 'array' && inner.items.length === 1 ? inner.items[0]! : inner
  }

  #temporalPredicate(op: TemporalOp): Filter {
    const start = this.#take()
    this.#next += 1
    const left = this.#temporal()
    this.#expectSymbol(',')
    const right = this.#temporal()
    this.#expectSymbol(')')
    return { kind: 'temporal', op, left, right, at: this.#span(start) }
  }

  #temporal(): Scalar {
    const value = this.#atom()
    if (['property', 'call', 'date', 'timestamp', 'interval'].includes(value.kind)) return value
    this.#refuse(
      value.at,
      'The T_ operators compare dates, moments and intervals.',
      'DATE(…), TIMESTAMP(…), INTERVAL(…), a property or a function',
    )
  }

  #sum(): Scalar {
    return this.#chain(['+', '-'], () => this.#chain(['*', '/', '%', 'div'], () => this.#power()))
  }

  #chain(ops: readonly ArithmeticOp[], part: () => Scalar): Scalar {
    let left = part()
    for (let terms = 1; ; terms += 1) {
      const token = this.#peek()
      const op = ops.find((one) =>
        one === 'div' ? this.#isWord('div') : token.kind === 'symbol' && token.raw === one,
      )
      if (!op) return left
      // Each sign is a level of the tree, which every later walk goes down.
      if (terms > bounds.depth)
        this.#refuse(
          token,
          `At most ${bounds.depth} terms stand in one row; put brackets around parts of it.`,
          'a bracket',
          token.raw,
        )
      this.#next += 1
      const right = part()
      left = { kind: 'arithmetic', op, left, right, at: this.#span(left) }
    }
  }

  #power(): Scalar {
    const left = this.#signed()
    if (!this.#isSymbol('^')) return left
    this.#next += 1
    const right = this.#signed()
    if (this.#isSymbol('^'))
      this.#refuse(
        this.#peek(),
        '^ does not chain; put brackets: (a ^ b) ^ c or a ^ (b ^ c).',
        'a bracket',
        '^',
      )
    return { kind: 'arithmetic', op: '^', left, right, at: this.#span(left) }
  }

  #signed(): Scalar {
    const sign = this.#peek()
    if (!this.#isSymbol('-') && !this.#isSymbol('+')) return this.#atom()
    this.#next += 1
    const value = this.#atom()
    const at = { from: sign.from, to: value.at.to }
    if (value.kind === 'text') this.#refuse(at, 'A sign belongs before a number.', 'a number')
    if (sign.raw === '+') return { ...value, at }
    if (value.kind === 'number') return { kind: 'number', value: `-${value.value}`, at }
    return {
      kind: 'arithmetic',
      op: '*',
      left: { kind: 'number', value: '-1', at: sign },
      right: value,
      at,
    }
  }

  #atom(): Scalar {
    const token = this.#take()
    if (token.kind === 'text') return { kind: 'text', value: token.value, at: token }
    if (token.kind === 'number') return { kind: 'number', value: plainNumber(token), at: token }
    if (token.kind === 'quotedName') return { kind: 'property', name: token.value, at: token }
    if (token.raw === '(') {
      const inner = this.#deeper(() => this.#sum())
      this.#expectSymbol(')')
      if (!computable.has(inner.kind))
        this.#refuse(
          this.#span(token),
          'Brackets stand around conditions and arithmetic; this value stands without them.',
          'the value without brackets',
          this.#text.slice(token.from, this.#span(token).to),
        )
      return { ...inner, at: this.#span(token) }
    }
    if (token.kind !== 'name') {
      this.#next -= 1
      this.#refuse(
        token,
        token.kind === 'end' ? 'The query breaks off here.' : `“${token.raw}” cannot stand here.`,
        'a property, a value or a function',
        token.raw,
      )
    }
    return this.#named(token)
  }

  #named(token: Token): Scalar {
    const word = token.value.toLowerCase()
    if (this.#isSymbol('(') && !isReserved(word)) {
      if (word === 'date' || word === 'timestamp') return this.#moment(word)
      if (word === 'interval') return this.#interval(token)
      this.#next -= 1
      if (word === 'casei' || word === 'accenti') return this.#fold(() => this.#foldable())
      return this.#call()
    }
    if (word === 'true' || word === 'false')
      return { kind: 'boolean', value: word === 'true', at: token }
    if (word === 'null')
      this.#refuse(token, 'Nothing equals NULL; for emptiness write IS NULL.', 'a value', token.raw)
    if (isReserved(word)) {
      this.#next -= 1
      this.#refuse(
        token,
        `A condition or a value is missing before ${token.raw}. (A property of that name stands in double quotes.)`,
        'a property, a value or a function',
        token.raw,
      )
    }
    return { kind: 'property', name: token.value, at: token }
  }

  #moment(kind: 'date' | 'timestamp'): Scalar {
    const name = this.#tokens[this.#next - 1]!
    this.#next += 1
    const token = this.#peek()
    const example = kind === 'date' ? "DATE('2026-03-01')" : "TIMESTAMP('2026-03-01T08:00:00Z')"
    if (token.kind !== 'text') {
      const end = this.#tokens[this.#closing(this.#next - 1)] ?? token
      this.#refuse(
        { from: token.from, to: Math.max(token.to, end.from) },
        `${kind.toUpperCase()} takes text in single quotes: ${example}.`,
        example,
      )
    }
    const valid = kind === 'date' ? isDay(token.value) : isInstantText(token.value)
    if (!valid)
      this.#refuse(
        token,
        `'${token.value}' is no ${kind === 'date' ? 'day of the calendar' : 'moment in UTC'}; write ${example}.`,
        example,
        token.value,
      )
    this.#next += 1
    this.#expectSymbol(')')
    return { kind, value: token.value, at: this.#span(name) }
  }

  #interval(name: Token): Scalar {
    this.#expectSymbol('(')
    const start = this.#intervalEnd()
    this.#expectSymbol(',', "An INTERVAL has two ends: INTERVAL('2026-03-01', '..').")
    const end = this.#intervalEnd()
    this.#expectSymbol(')')
    const at = this.#span(name)
    if (start && end && literalEndsBefore(start, end))
      this.#refuse(at, 'This interval ends before it starts.', 'the earlier end first')
    return { kind: 'interval', start, end, at }
  }

  #intervalEnd(): Scalar | null {
    const token = this.#peek()
    if (token.kind === 'text') {
      this.#next += 1
      if (token.value === '..') return null
      if (isDay(token.value)) return { kind: 'date', value: token.value, at: token }
      if (isInstantText(token.value)) return { kind: 'timestamp', value: token.value, at: token }
      this.#refuse(
        token,
        `'${token.value}' is neither a day ('2026-03-01'), a moment ('2026-03-01T08:00:00Z') nor '..' for an open end.`,
        "a day, a moment or '..'",
        token.value,
      )
    }
    const value = this.#atom()
    if (
      value.kind === 'property' ||
      value.kind === 'call' ||
      value.kind === 'date' ||
      value.kind === 'timestamp'
    )
      return value
    this.#refuse(
      value.at,
      "An end of an INTERVAL is a day, a moment, a property, a function or '..'.",
      'a day or a moment',
    )
  }

  #fold(inside: () => Scalar): Scalar {
    const name = this.#take()
    this.#next += 1
    const value = this.#deeper(inside)
    this.#expectSymbol(')')
    return {
      kind: 'fold',
      fold: name.value.toLowerCase() as 'casei' | 'accenti',
      value,
      at: this.#span(name),
    }
  }

  #foldable(): Scalar {
    const value = this.#atom()
    if (['text', 'property', 'fold', 'call'].includes(value.kind)) return value
    this.#refuse(value.at, 'CASEI and ACCENTI fold text.', 'text')
  }

  #call(): Scalar {
    const name = this.#take()
    this.#next += 1
    const args = this.#list(')', () => this.#deeper(() => this.#argument()))
    return {
      kind: 'call',
      name: name.value,
      args,
      at: this.#span(name),
      nameAt: { from: name.from, to: name.to },
    }
  }

  /** An argument is a value, an array or a whole condition, as the standard allows. */
  #argument(): Scalar {
    const start = this.#next
    if (this.#isSymbol('(')) {
      const inside = this.#tokens.slice(start + 1, this.#closing(start))
      if (inside.some((token) => token.raw === ',')) return this.#arrayItem()
    }
    if (this.#isWord('not')) return this.#condition()
    const value = this.#sum()
    const token = this.#peek()
    if (token.raw === ',' || token.raw === ')' || token.kind === 'end' || token.kind === 'text')
      return value
    this.#next = start
    return this.#condition()
  }

  #condition(): Scalar {
    const filter = this.#either()
    return { kind: 'condition', filter, at: filter.at }
  }

  #list(close: string, part: () => Scalar): Scalar[] {
    const items: Scalar[] = []
    if (this.#isSymbol(close)) {
      this.#next += 1
      return items
    }
    for (;;) {
      items.push(part())
      if (items.length > bounds.list)
        this.#refuse(this.#peek(), `A list may hold at most ${bounds.list} values.`)
      if (this.#isSymbol(',')) this.#next += 1
      else break
    }
    this.#expectSymbol(close)
    return items
  }

  /** Recursion happens only inside brackets, so counting those bounds it. */
  #deeper<T>(part: () => T): T {
    if (this.#brackets[Math.min(this.#next, this.#tokens.length - 1)]! > bounds.depth)
      this.#refuse(this.#peek(), `This query is nested deeper than ${bounds.depth} levels.`)
    return part()
  }

  #span(start: { at: At } | Token): At {
    return {
      from: 'at' in start ? start.at.from : start.from,
      to: this.#tokens[this.#next - 1]!.to,
    }
  }

  #peek(ahead = 0): Token {
    return this.#tokens[Math.min(this.#next + ahead, this.#tokens.length - 1)]!
  }

  #take(): Token {
    const token = this.#peek()
    if (token.kind !== 'end') this.#next += 1
    else this.#next = this.#tokens.length
    return token
  }

  #isSymbol(raw: string): boolean {
    const token = this.#peek()
    return token.kind === 'symbol' && token.raw === raw
  }

  #isWord(word: string): boolean {
    const token = this.#peek()
    return token.kind === 'name' && token.value.toLowerCase() === word
  }

  #isTruth(): boolean {
    return this.#isWord('true') || this.#isWord('false')
  }

  #takeWord(word: string): boolean {
    if (!this.#isWord(word)) return false
    this.#next += 1
    return true
  }

  #expectSymbol(raw: string, message = `Here “${raw}” is missing.`): void {
    if (!this.#isSymbol(raw)) this.#refuse(this.#peek(), message, raw, this.#peek().raw)
    this.#next += 1
  }

  #refuse(at: At, message: string, expected?: string, found?: string, nearest?: string): never {
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
